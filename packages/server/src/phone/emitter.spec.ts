import { readRecording } from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WebSocket as NodeSocket } from 'ws';
import { Emitter, type EmittedRow } from '../../../../docs/reference-emitter.mjs';
import { RecordingClient } from '../client/recording-client';
import { serve, type Running } from '../serve';
import { DECKHAND, deckhandHeader } from '../testing/deckhand';

vi.mock('../assets');

const sockets: NodeSocket[] = [];

/** The socket of the standard, each of which can be cut here. */
class CuttableSocket extends NodeSocket {
  constructor(url: string, protocols: string[]) {
    super(url, protocols);
    sockets.push(this);
  }
}

const cut = () => sockets.splice(0).forEach((socket) => socket.terminate());
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const span = (at: number): EmittedRow => ({
  kind: 'span',
  thread: 0,
  startMs: at,
  durationMs: 0,
  type: 'mark',
  name: `row ${at}`,
});

let running: Running;
let emitter: Emitter;
let ends = 0;

beforeEach(async () => {
  vi.stubGlobal('WebSocket', CuttableSocket);
  running = await serve({ target: 'localhost:9', port: 0, proxyPort: 0 });
  emitter = new Emitter(running.proxyOrigin, DECKHAND, {
    start: deckhandHeader,
    stop: () => ({ kind: 'end', startMs: (ends = 1000), reason: 'stopped' }),
    note: (text) => [{ ...span(999), type: 'note', name: text }],
  });
  await emitter.connect();
});

afterEach(() => {
  emitter.close();
  running.close();
  vi.unstubAllGlobals();
});

describe('the reference emitter', () => {
  it('is recorded as a page is', async () => {
    const client = await RecordingClient.connect(running);
    const target = await client.target();
    expect(target).toMatchObject({ id: 'deckhand', recording: null });
    await client.start(target, 'friday');
    emitter.add([span(1), span(2)]);
    const lines = await client.stop(target, 'friday');
    const { recording, notices } = readRecording([Buffer.from(`${lines.join('\n')}\n`)]);
    expect([notices, recording.header.id, recording.range.endMs]).toEqual([[], 'friday', ends]);
    expect([...recording.events.span.rows()].map(({ name }) => name)).toEqual(['row 1', 'row 2']);
    expect(emitter.recordingId).toBeUndefined();
    client.close();
  });

  it('loses no row and doubles none, however often the connection is lost', async () => {
    const client = await RecordingClient.connect(running);
    const target = await client.target();
    await client.start(target, 'friday');
    for (let at = 1; at <= 60; at++) {
      emitter.add([span(at)]);
      if (at % 7 === 0) cut();
      await pause(45);
    }
    await vi.waitUntil(() => emitter.waiting === 0, 8000);
    const lines = await client.stop(await client.target(), 'friday');
    const { recording } = readRecording([Buffer.from(`${lines.join('\n')}\n`)]);
    expect([...recording.events.span.rows()].map(({ startMs }) => startMs)).toEqual(
      Array.from({ length: 60 }, (_, at) => at + 1),
    );
    expect([...recording.events.drop.rows()]).toEqual([]);
    client.close();
  }, 20_000);

  it('is let in from another device by a code, recorded, and hears no more once it is turned away', async () => {
    emitter.close();
    await running.lan.open('127.0.0.2');
    const { devices, origin = '' } = running.lan;
    const distant = new Emitter(
      origin,
      { ...DECKHAND, id: 'distant' },
      { start: deckhandHeader, stop: () => ({ kind: 'end', startMs: 500, reason: 'stopped' }) },
      devices.code.code,
    );
    await distant.connect();
    const client = await RecordingClient.connect(running);
    const target = await client.target();
    expect(target.id).toBe('distant');
    await client.start(target, 'friday');
    distant.add([span(1), span(2)]);
    cut();
    distant.add([span(3)]);
    await vi.waitUntil(() => distant.waiting === 0, 8000);
    const lines = await client.stop(await client.target(), 'friday');
    expect(lines.filter((line) => line.includes('"mark"'))).toHaveLength(3);
    devices.revoke(devices.list[0]!.id);
    await pause(1500);
    expect(devices.list).toEqual([]);
    const late = await fetch(`${origin}/__nettle-patch/join`);
    expect(late.status).toBe(403);
    distant.close();
    client.close();
  }, 20_000);

  it('joins a server that was started anew, with its new secret', async () => {
    const port = Number(new URL(running.proxyOrigin).port);
    running.close();
    await pause(200);
    running = await serve({ target: 'localhost:9', port: 0, proxyPort: port });
    const client = await RecordingClient.connect(running);
    expect(await client.target()).toMatchObject({ id: 'deckhand' });
    client.close();
  }, 20_000);

  it('bounds what it holds, gives up the oldest but the header, and counts it', async () => {
    const client = await RecordingClient.connect(running);
    await client.start(await client.target(), 'friday');
    await vi.waitUntil(() => emitter.waiting === 0);
    cut();
    await pause(50);
    const long = 'x'.repeat(1_000_000);
    for (let at = 1; at <= 12; at++) emitter.add([{ ...span(at), name: long }]);
    expect(emitter.waiting).toBeLessThanOrEqual(9);
    await vi.waitUntil(() => emitter.waiting === 0, 8000);
    const lines = await client.stop(await client.target(), 'friday');
    const rows = lines.map((line) => JSON.parse(line) as { kind: string; count?: number });
    const lost = rows.filter(({ kind }) => kind === 'drop').reduce((sum, row) => sum + row.count!, 0);
    expect(lost + rows.filter(({ kind }) => kind === 'span').length).toBe(12);
    expect(lost).toBeGreaterThanOrEqual(3);
    client.close();
  }, 20_000);
});
