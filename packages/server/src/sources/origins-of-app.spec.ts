import { expect, it } from 'vitest';
import { lanAddresses } from '../lan/addresses';
import { originsOfApp } from './origins-of-app';

it('an app of this computer is known by each of its names, another by its own alone', () => {
  expect(originsOfApp('http://[::1]:3000')).toEqual([
    'http://localhost:3000',
    'http://127.0.0.1:3000',
    'http://[::1]:3000',
    ...lanAddresses().map((address) => `http://${address}:3000`),
  ]);
  expect(originsOfApp('https://localhost')).toContain('https://127.0.0.1');
  expect(originsOfApp('https://quay.example')).toEqual(['https://quay.example']);
});
