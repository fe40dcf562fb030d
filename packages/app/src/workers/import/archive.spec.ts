import { gzipSync, gunzipSync } from 'node:zlib';
import { RecordingBuilder, RecordingDecoder } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import type { StoredRecording } from '../../store/database';
import { expectedBytes, readFile } from './archive';
import { exportFile, fileName } from '../analysis/export';

const LINES = [
  '{"kind":"header","format":"nettle-patch","version":"1.0","id":"friday","startedAt":"2026-11-20T12:40:00.000Z","title":"Desk","mode":"everyday","startUp":false,"clockStepMs":0.1,"refreshMs":16.7,"target":{"title":"Desk","url":"","engine":"Blink","device":""},"available":[],"missing":[]}',
  ...Array.from(
    { length: 400 },
    (_, index) =>
      `{"kind":"task","thread":0,"startMs":${index * 100},"durationMs":${51 + (index % 37)},"source":"longtask"}`,
  ),
  '{"kind":"end","startMs":40000,"reason":"stopped"}',
];
const TEXT = LINES.map((line) => `${line}\n`).join('');
const KEPT = {
  title: 'Friday · 12:40 Holm',
  createdAt: '2026-11-20T12:40:00.000Z',
  damaged: false,
} as StoredRecording;

async function read(bytes: Uint8Array) {
  const builder = new RecordingBuilder();
  const decoder = new RecordingDecoder(builder);
  await readFile(
    new Blob([bytes as Uint8Array<ArrayBuffer>]),
    decoder,
    () => undefined,
    () => undefined,
  );
  return { notices: decoder.finish(), recording: builder.build() };
}

describe('files', () => {
  it('are read compressed and plain', async () => {
    for (const bytes of [gzipSync(TEXT), Buffer.from(TEXT)]) {
      const { notices, recording } = await read(bytes);
      expect(notices).toEqual([]);
      expect(recording.events.task.length).toBe(400);
    }
  });

  it('say how much they unpack to, as far as they know', async () => {
    const bytes = Buffer.byteLength(TEXT);
    expect(await expectedBytes(new Blob([gzipSync(TEXT)]))).toBe(bytes);
    expect(await expectedBytes(new Blob([TEXT]))).toBe(bytes);
    expect(await expectedBytes(new Blob([]))).toBe(0);
  });

  it('that are a damaged archive are read as far as they go, and it is said', async () => {
    const packed = gzipSync(TEXT);
    const { notices, recording } = await read(packed.subarray(0, packed.length - 200));
    expect(notices.map(({ code }) => code)).toContain('damaged-archive');
    expect(recording.events.task.length).toBeGreaterThan(0);
    expect(recording.events.task.length).toBeLessThan(400);
  });

  it('are written with the present title and check lines, and read back the same', async () => {
    const blob = await exportFile(KEPT, [Buffer.from(TEXT.slice(0, 777)), Buffer.from(TEXT.slice(777))]);
    const { notices, recording } = await read(new Uint8Array(await blob.arrayBuffer()));
    expect(notices).toEqual([]);
    expect(recording.header.title).toBe(KEPT.title);
    expect(recording.events.task.length).toBe(400);
    expect(gunzipSync(await blob.arrayBuffer()).toString()).toContain('"kind":"check"');
  });

  it('of a damaged recording are written as they were read, so that the damage goes on being told', async () => {
    const blob = await exportFile({ ...KEPT, damaged: true }, [Buffer.from(TEXT)]);
    expect(gunzipSync(await blob.arrayBuffer()).toString()).toBe(TEXT);
  });

  it('have a name that every system allows', () => {
    expect(fileName(KEPT)).toBe('friday-12-40-holm-2026-11-20.nettle.jsonl.gz');
    expect(fileName({ ...KEPT, title: '///' })).toBe('recording-2026-11-20.nettle.jsonl.gz');
  });
});
