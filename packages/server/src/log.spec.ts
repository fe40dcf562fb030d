import { describe, expect, it } from 'vitest';
import { redacted } from './log';

describe('what is logged', () => {
  it.each([
    'POST /__nettle-patch/rows?secret=TOP: Error: aborted',
    'http://127.0.0.1:4780/#secret=TOP',
    'authorization: Bearer TOP, and more TOP',
    'got "Bearer TOP"',
    'cookie: sailing=friday; nettle-patch-device=TOP',
    'nettle-patch-device=TOP; Path=/',
    'GET /__nettle-patch/pair/TOP: 403',
    "{'sec-websocket-protocol': 'nettle-patch, TOP'}",
  ])('holds no secret: %s', (text) => {
    expect(redacted(text)).not.toContain('TOP');
    expect(redacted(text)).toContain('…');
  });

  it('is else as it was', () => {
    const text = 'GET /manifest?name=hak: connect ECONNREFUSED 127.0.0.1:3000';
    expect(redacted(text)).toBe(text);
  });
});
