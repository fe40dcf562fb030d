import type { Finding } from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WebSocket } from 'ws';
import { Emitter } from '../../../../docs/reference-emitter.mjs';
import { DECKHAND, deckhandHeader } from '../testing/deckhand';
import { EmitterCheck } from './emitter-check';

const END = { kind: 'end', startMs: 100, reason: 'stopped' };

let findings: Finding[];
let check: EmitterCheck;
let origin: string;

beforeEach(async () => {
  vi.stubGlobal('WebSocket', WebSocket);
  findings = [];
  check = new EmitterCheck((finding) => findings.push(finding));
  origin = await check.listen(0);
});
afterEach(() => {
  check.close();
  vi.unstubAllGlobals();
});

const faults = () => findings.map(({ text }) => text);

/** Connects and sends frames as they are, the rest once the recording has been asked for. */
async function sends(hello: object, frames: readonly string[]): Promise<WebSocket> {
  const secret = await (await fetch(`${origin}/__nettle-patch/join`)).text();
  const socket = new WebSocket(`${origin.replace('http', 'ws')}/__nettle-patch/target`, [
    'nettle-patch',
    secret,
  ]);
  socket.on('open', () => socket.send(JSON.stringify(hello)));
  socket.once('message', () => frames.forEach((frame) => socket.send(frame)));
  return socket;
}

const HELLO = { type: 'hello', target: { ...DECKHAND, visible: true, recording: null } };
const batch = (rows: readonly object[], more: object = {}) =>
  [
    { type: 'rows', targetId: 'deckhand', recordingId: 'verified', sequence: 0, last: false, ...more },
    ...rows,
  ]
    .map((row) => `${JSON.stringify(row)}\n`)
    .join('');

describe('an emitter', () => {
  it('that is in order has no fault', async () => {
    const emitter = new Emitter(origin, DECKHAND, { start: deckhandHeader, stop: () => END });
    await emitter.connect();
    await check.record(300);
    emitter.close();
    expect(findings).toEqual([]);
    expect(check.lineCount).toBe(2);
  });

  it('that breaks the protocol or the format is told each fault, with its frame or its line', async () => {
    const first = batch([
      deckhandHeader('verified'),
      { kind: 'task', thread: 0, startMs: 1, durationMs: 'long', source: 'own' },
      { kind: 'tide' },
    ]);
    const socket = await sends(HELLO, [
      first,
      batch([{ kind: 'stack', id: 3, function: 99 }], { sequence: 2 }),
      batch([END], { sequence: 3, last: true, recordingId: 'another' }),
      '{"type":"hello"}',
      JSON.stringify({ ...HELLO, target: { ...HELLO.target, id: 'another' } }),
      batch([END], { sequence: 3, last: true }).trimEnd(),
    ]);
    await check.record(300);
    socket.close();
    expect(faults()).toEqual([
      expect.stringMatching(/in a "task" row, "durationMs" must be/),
      expect.stringContaining('"tide" is no kind this version knows'),
      'frame 3: "sequence" is 2, expected is 1: batches before it are missing',
      'in a "stack" row, function 99 is unknown',
      'frame 4: "recordingId" is "another", asked for was "verified"',
      expect.stringMatching(/^frame 5: .*target/),
      'frame 6: the hello has another id ("another") than the one before ("deckhand")',
      'frame 7: the last row has no line end',
      expect.stringContaining('line 5 is incomplete'),
    ]);
    expect(findings.map(({ line }) => line).filter(Boolean)).toEqual([2, 3, 4, 4]);
  });

  it('that does not end is told so', async () => {
    const socket = await sends(HELLO, [batch([deckhandHeader('verified')])]);
    await check.record(10);
    socket.close();
    expect(faults()[0]).toBe('no batch with "last": true came within 3 s of "stop"');
  });

  it('that never comes is missed when the wait is ended', async () => {
    const done = check.record(60_000);
    check.stop();
    await done;
    expect(faults()).toEqual(['no emitter said hello']);
  });
});
