import type { IncomingMessage } from 'node:http';
import { describe, expect, it } from 'vitest';
import { answerHeaders, type AnswerContext } from './answer-headers';

const ORIGINS = { targetOrigin: 'http://localhost:3000', proxyOrigin: 'http://localhost:4781' };

function headersOf(given: Readonly<Record<string, string>>, context: Partial<AnswerContext> = {}) {
  const answer = { rawHeaders: Object.entries(given).flat(), headers: given } as unknown as IncomingMessage;
  return Object.fromEntries(
    answerHeaders(answer, { ...ORIGINS, ...context }).map(([name, value]) => [name.toLowerCase(), value]),
  );
}

describe('the headers of an answer', () => {
  const kept = { 'cache-control': 'public, max-age=31536000, immutable', etag: '"1"', age: '5' };

  it('have browsers ask again for scripts they would keep for good', () => {
    expect(headersOf(kept, { asksAgain: true })).toEqual({ 'cache-control': 'no-cache', etag: '"1"' });
    expect(headersOf({ expires: 'Fri, 27 Nov 2026 12:40:00 GMT' }, { asksAgain: true })).toEqual({
      'cache-control': 'no-cache',
    });
    expect(headersOf({ 'cache-control': 'no-store' }, { asksAgain: true })).toEqual({
      'cache-control': 'no-store',
    });
  });

  it('have browsers ask for each page anew, which holds what belongs to its load', () => {
    const permit = { scriptUrls: [], senderUrl: '', nonce: 'n' };
    expect(headersOf(kept, { permit })).toEqual({
      'cache-control': 'no-cache',
      'document-policy': 'js-profiling',
    });
    expect(headersOf({}, { permit })).toMatchObject({ 'cache-control': 'no-cache' });
  });

  it('are those of the app for all that is no script', () => {
    expect(headersOf(kept)).toEqual(kept);
  });

  it('lead to this origin where they led to the whole one of the app, and to no other', () => {
    for (const host of ['localhost', '127.0.0.1', '[::1]'])
      expect(headersOf({ location: `http://${host}:3000/board?at=1` })).toEqual({
        location: 'http://localhost:4781/board?at=1',
      });
    for (const location of [
      'http://localhost:30001/',
      'https://127.0.0.1:3000/',
      'http://localhost:3000.evil.example/',
      '//localhost:3000/',
    ])
      expect(headersOf({ location })).toEqual({ location });
  });
});
