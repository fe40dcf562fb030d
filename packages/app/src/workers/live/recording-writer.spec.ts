import 'fake-indexeddb/auto';
import { readRecording, type BatchFrame, type ScriptText } from '@nettle-patch/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { NettleDatabase } from '../../store/database';
import { RecordingStore, StoreFullError } from '../../store/recording-store';
import { RecordingWriter } from './recording-writer';

const HEADER = {
  kind: 'header',
  format: 'nettle-patch',
  version: '1.0',
  id: 'friday',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'Boarding desk',
  mode: 'everyday',
  startUp: false,
  clockStepMs: 0.1,
  refreshMs: 16.7,
  target: { title: 'Boarding desk', url: 'http://localhost:4781/', engine: 'Blink 156', device: 'computer' },
  available: [],
  missing: [],
};
const task = (startMs: number) => ({ kind: 'task', thread: 0, startMs, durationMs: 60, source: 'longtask' });
const lines = (...rows: object[]) => rows.map((row) => `${JSON.stringify(row)}\n`).join('');
const batch = (sequence: number, text: string, last = false): BatchFrame => ({
  type: 'rows',
  batch: { type: 'rows', targetId: 'desk', recordingId: 'friday', sequence, last },
  lines: text,
});

let store: RecordingStore;
let kept: number[];
let writer: RecordingWriter;
const onEnd = vi.fn<() => void>();
const onError = vi.fn<(error: Error, kept: boolean) => void>();
const fetchScript = async (url: string): Promise<ScriptText> => ({ url, text: 'function onBoardAll(){}' });

beforeEach(() => {
  store = new RecordingStore(new NettleDatabase(`test ${crypto.randomUUID()}`));
  kept = [];
  onEnd.mockReset();
  onError.mockReset();
  writer = newWriter();
});

function newWriter(): RecordingWriter {
  return new RecordingWriter('friday', store, {
    acknowledge: (sequence) => kept.push(sequence),
    askAgain: () => undefined,
    onChange: () => undefined,
    onEnd,
    onError,
    uninstrumented: () => Promise.resolve([]),
    fetchScript,
  });
}

/** Keeping an hour takes some seconds. */
const HOUR_LIMIT = { timeout: 50_000, interval: 100 };
const ended = () => vi.waitFor(() => expect(onEnd).toHaveBeenCalled());
const tasksKept = async () => {
  const { recording, notices } = readRecording(await store.pieces('friday'));
  return { starts: [...recording.events.task.rows()].map(({ startMs }) => startMs), notices, recording };
};

describe('a writer', () => {
  it('writes what comes, says what is safe, and ends with names resolved before the end row', async () => {
    writer.take(batch(0, lines(HEADER, { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' })));
    writer.take(
      batch(1, lines(task(10), { kind: 'function', id: 0, name: 'o', source: 0, line: 1, column: 20 })),
    );
    writer.take(batch(2, lines(task(90), { kind: 'end', startMs: 200, reason: 'stopped' }), true));
    await ended();
    await vi.waitFor(() => expect(kept).toEqual([0, 1, 2]));
    const { starts, notices, recording } = await tasksKept();
    expect(notices).toEqual([]);
    expect(starts).toEqual([10, 90]);
    expect(recording.functions.get(0)).toMatchObject({ originalName: 'onBoardAll' });
    expect(await store.get('friday')).toMatchObject({ state: 'ended', title: 'Boarding desk' });
  });

  it('refuses a header that is that of another recording', async () => {
    writer.take(batch(0, lines({ ...HEADER, id: 'saturday' }, task(10))));
    await vi.waitFor(() => expect(onError).toHaveBeenCalled());
    expect(onError.mock.calls[0]![0].message).toContain('that of another recording');
    expect(await store.get('saturday')).toBeUndefined();
    expect(kept).toEqual([]);
  });

  it('puts batches in order, and takes each once', async () => {
    writer.take(batch(0, lines(HEADER)));
    writer.take(batch(2, lines(task(20))));
    writer.take(batch(1, lines(task(10))));
    writer.take(batch(1, lines(task(10))));
    writer.take(batch(3, lines({ kind: 'end', startMs: 30, reason: 'stopped' }), true));
    await ended();
    expect((await tasksKept()).starts).toEqual([10, 20]);
  });

  it('ends a recording whose target is gone with what there is', async () => {
    writer.take(batch(0, lines(HEADER, task(10))));
    writer.end('target-left');
    await ended();
    const { starts, notices, recording } = await tasksKept();
    expect([starts, notices]).toEqual([[10], []]);
    expect([...recording.events.end.rows()]).toEqual([{ startMs: 70, reason: 'target-left' }]);
  });

  it('goes on with a recording after a reload, without taking again what is kept', async () => {
    writer.take(batch(0, lines(HEADER, task(10))));
    await vi.waitFor(() => expect(kept).toEqual([0]));
    const found = (await store.get('friday'))!;
    const again = new RecordingWriter(
      'friday',
      store,
      {
        acknowledge: () => undefined,
        askAgain: () => undefined,
        onChange: () => undefined,
        onEnd,
        onError,
        fetchScript,
        uninstrumented: () => Promise.resolve([]),
      },
      found,
    );
    again.take(batch(0, lines(HEADER, task(10))));
    again.take(batch(1, lines(task(20), { kind: 'end', startMs: 30, reason: 'stopped' }), true));
    await ended();
    expect((await tasksKept()).starts).toEqual([10, 20]);
  });

  it('keeps what it cannot understand, so that opening the recording tells of it', async () => {
    writer.take(batch(0, `${lines(HEADER)}half a li\n{"kind":"samples","data":7}\n`));
    writer.take(batch(1, lines(task(10), { kind: 'end', startMs: 90, reason: 'stopped' }), true));
    await ended();
    const { starts, notices } = await tasksKept();
    expect(starts).toEqual([10]);
    expect(notices.map(({ code }) => code)).toEqual(['bad-line', 'bad-line']);
    expect(onError).not.toHaveBeenCalled();
  });

  it('ends what it has when there is no room, without the names of functions if those do not fit', async () => {
    const isFull = { for: 1 };
    const append = store.append.bind(store);
    vi.spyOn(store, 'append').mockImplementation((...args) =>
      isFull.for-- > 0 ? Promise.reject(new StoreFullError('full')) : append(...args),
    );
    isFull.for = 0;
    writer.take(batch(0, lines(HEADER, task(10))));
    await vi.waitFor(() => expect(kept).toEqual([0]));
    isFull.for = 2;
    writer.take(batch(1, lines(task(20))));
    await vi.waitFor(() => expect(onError).toHaveBeenCalledTimes(1));
    expect(onError.mock.calls[0]).toEqual([expect.any(StoreFullError), true]);
    const { recording } = readRecording(await store.pieces('friday'));
    expect([...recording.events.task.rows()].map(({ startMs }) => startMs)).toEqual([10]);
    expect([...recording.events.end.rows()].map(({ reason }) => reason)).toEqual(['full']);
    expect((await store.get('friday'))?.state).toBe('ended');
  });

  it('says that it could not even end where nothing fits any more', async () => {
    writer.take(batch(0, lines(HEADER, task(10))));
    await vi.waitFor(() => expect(kept).toEqual([0]));
    vi.spyOn(store, 'append').mockRejectedValue(new StoreFullError('full'));
    writer.take(batch(1, lines(task(20))));
    await vi.waitFor(() => expect(onError).toHaveBeenCalledTimes(1));
    expect(onError.mock.calls[0]![1]).toBe(false);
    expect((await store.get('friday'))?.state).toBe('recording');
  });

  it('notes how much slower the device is, which only this computer can tell', async () => {
    const events = {
      acknowledge: () => undefined,
      askAgain: () => undefined,
      onChange: () => undefined,
      onEnd,
      onError,
      fetchScript,
    };
    const slow = new RecordingWriter(
      'friday',
      store,
      { ...events, uninstrumented: () => Promise.resolve([]) },
      undefined,
      { speed: 4.1 },
    );
    slow.take(batch(0, lines(HEADER, task(10), { kind: 'end', startMs: 90, reason: 'stopped' }), true));
    await ended();
    const { recording } = readRecording(await store.pieces('friday'));
    expect(recording.header).toMatchObject({ speed: 4.1, title: 'Boarding desk' });
  });

  it('is called what it was called beforehand', async () => {
    const events = { acknowledge: () => undefined, askAgain: () => undefined, onChange: () => undefined };
    const named = new RecordingWriter(
      'friday',
      store,
      { ...events, onEnd, onError, fetchScript, uninstrumented: () => Promise.resolve([]) },
      undefined,
      { title: 'Friday, pier 3', tags: ['pier 3'] },
    );
    named.take(batch(0, lines(HEADER, task(10), { kind: 'end', startMs: 90, reason: 'stopped' }), true));
    await ended();
    expect(await store.get('friday')).toMatchObject({ title: 'Friday, pier 3', tags: ['pier 3'] });
    expect(readRecording(await store.pieces('friday')).recording.header.title).toBe('Friday, pier 3');
  });

  it('stops writing when there is no room, and says so once', async () => {
    writer.take(batch(0, lines(HEADER)));
    await vi.waitFor(() => expect(kept).toEqual([0]));
    vi.spyOn(store, 'append').mockRejectedValue(new Error('full'));
    writer.take(batch(1, lines(task(10))));
    writer.take(batch(2, lines(task(20))));
    await vi.waitFor(() => expect(onError).toHaveBeenCalledTimes(1));
    expect(kept).toEqual([0]);
  });
});

describe('a recording of an hour', () => {
  it('is kept second by second and read again whole', async () => {
    const SECONDS = 3600;
    const secondOf = (second: number) => {
      const startMs = second * 1000;
      const input = {
        kind: 'input',
        thread: 0,
        startMs,
        durationMs: 24,
        type: 'click',
        interaction: second + 1,
      };
      const render = {
        kind: 'render',
        thread: 0,
        startMs: startMs + 8,
        durationMs: 6,
        styleMs: 1,
        layoutMs: 2,
      };
      const cost = { kind: 'cost', thread: 0, startMs, durationMs: 1000, busyMs: 9, longestMs: 1 };
      return [
        input,
        task(startMs + 500),
        ...Array.from({ length: 30 }, () => ({ ...render, paintMs: 3 })),
        cost,
      ];
    };
    writer.take(batch(0, lines(HEADER)));
    for (let second = 0; second < SECONDS; second++)
      writer.take(batch(second + 1, lines(...secondOf(second))));
    const end = { kind: 'end', startMs: SECONDS * 1000, reason: 'stopped' };
    writer.take(batch(SECONDS + 1, lines(end), true));
    await vi.waitFor(() => expect(onEnd).toHaveBeenCalled(), HOUR_LIMIT);
    const { starts, notices, recording } = await tasksKept();
    expect(starts).toHaveLength(SECONDS);
    expect(notices).toEqual([]);
    expect(recording.range.endMs).toBe(SECONDS * 1000);
    expect(recording.events.render.length).toBe(SECONDS * 30);
  }, 60_000);
});
