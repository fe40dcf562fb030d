import { expect, it } from 'vitest';
import { atOrigin } from './at-origin';

it.each([
  '//evil.example/x',
  '/\\evil.example/x',
  '\\\\evil.example/x',
  '/board?at=1',
  'board',
  '',
  '/@evil.example/',
])('leads to the app, whatever the path: %s', (path) =>
  expect(atOrigin('http://localhost:3000', path).origin).toBe('http://localhost:3000'),
);
