import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { MISSING_BATCH_MS } from '../protocol/patience';
import { deskHeader } from '../testing/arbitrary-recording';
import { RecordingReceiver, type RecordingSink } from './recording-receiver';

const HEADER = JSON.stringify(deskHeader());
const task = (startMs: number) => JSON.stringify({ kind: 'task', thread: 0, startMs, durationMs: 60 });
const END = JSON.stringify({ kind: 'end', startMs: 900, reason: 'stopped' });

/** Keeps lines in memory, and fails where it is told to. */
class Memory implements RecordingSink {
  readonly lines: string[] = [];
  nextBatch: number | undefined = 0;
  isFinished = false;
  error: Error | undefined;

  get hasBegun(): boolean {
    return this.lines.length > 0;
  }

  get lastMs(): number {
    return Math.max(0, ...this.lines.map((line) => (JSON.parse(line) as { startMs?: number }).startMs ?? 0));
  }

  append(lines: readonly string[], nextBatch = this.nextBatch): Promise<void> {
    const { error } = this;
    if (error !== undefined) return Promise.reject(error);
    this.lines.push(...lines);
    this.nextBatch = nextBatch;
    return Promise.resolve();
  }

  pieces(): Promise<Iterable<Uint8Array>> {
    return Promise.resolve(this.lines.map((line) => new TextEncoder().encode(`${line}\n`)));
  }

  finish(): Promise<void> {
    this.isFinished = true;
    return Promise.resolve();
  }

  isFull(error: unknown): boolean {
    return error instanceof RangeError;
  }
}

/** A receiver with a clock that is moved by hand, and all it does, in order. */
function receiving(next = 0) {
  const sink = new Memory();
  const done: string[] = [];
  const timers = new Map<object, { work: () => void; dueMs: number }>();
  let nowMs = 0;
  const receiver = new RecordingReceiver(
    sink,
    { fetchScript: async (url) => ({ url, problem: 'gone' }), uninstrumented: async () => [] },
    {
      acknowledge: (sequence) => done.push(`acknowledge ${sequence}`),
      askAgain: () => done.push('ask again'),
      onEnd: (reason) => done.push(`end ${reason}`),
      onError: ({ message }, kept) => done.push(`error ${message} ${kept}`),
    },
    (work, afterMs) => {
      const key = {};
      timers.set(key, { work, dueMs: nowMs + afterMs });
      return () => timers.delete(key);
    },
    next,
  );
  const settle = async () => {
    for (let turn = 0; turn < 30; turn++) await Promise.resolve();
  };
  const take = async (sequence: number, lines: readonly string[], last = false) => {
    const batch = { type: 'rows', targetId: 'desk', recordingId: 'friday', sequence, last } as const;
    receiver.take({ type: 'rows', batch, lines: lines.map((line) => `${line}\n`).join('') });
    await settle();
  };
  const pass = async (ms: number) => {
    nowMs += ms;
    for (const [key, { work, dueMs }] of [...timers]) {
      if (dueMs > nowMs) continue;
      timers.delete(key);
      work();
    }
    await settle();
  };
  return { receiver, sink, done, take, pass, settle };
}

describe('a recording that streams in', () => {
  it('is kept, acknowledged and ended', async () => {
    const { sink, done, take, receiver } = receiving();
    await take(0, [HEADER]);
    await take(1, [task(10)]);
    expect(receiver.isClosed).toBe(false);
    await take(2, [task(20), END], true);
    expect(sink.lines).toEqual([HEADER, task(10), task(20), END]);
    expect(done).toEqual(['acknowledge 0', 'acknowledge 1', 'end stopped', 'acknowledge 2']);
    expect([sink.isFinished, receiver.isClosed]).toEqual([true, true]);
  });

  it('acknowledges nothing behind a gap, asks for what is missing, and goes on with it when it comes', async () => {
    const { sink, done, take, pass } = receiving();
    await take(0, [HEADER]);
    await take(2, [task(20)]);
    await take(3, [task(30)]);
    await pass(MISSING_BATCH_MS - 1);
    expect(done).toEqual(['acknowledge 0']);
    await pass(1);
    expect(done).toEqual(['acknowledge 0', 'ask again']);
    await take(1, [task(10)]);
    await take(2, [task(20)]);
    await take(3, [task(30)]);
    await pass(10 * MISSING_BATCH_MS);
    expect(sink.lines).toEqual([HEADER, task(10), task(20), task(30)]);
    expect(done.filter((one) => one === 'ask again')).toHaveLength(1);
    expect(done.at(-1)).toBe('acknowledge 3');
  });

  it('tells what did not come although it was asked for again, and goes on behind it', async () => {
    const { sink, done, take, pass } = receiving();
    await take(0, [HEADER, task(5)]);
    await take(3, [task(30)]);
    await pass(MISSING_BATCH_MS);
    await take(3, [task(30)]);
    expect(done).toEqual(['acknowledge 0', 'ask again']);
    await pass(MISSING_BATCH_MS);
    const drop = { kind: 'drop', startMs: 5, count: 2, reason: 'batches were lost on the way' };
    expect(sink.lines).toEqual([HEADER, task(5), JSON.stringify(drop), task(30)]);
    expect(done.at(-1)).toBe('acknowledge 3');
  });

  it('goes on where it was, and never goes back for what comes again with more', async () => {
    const { sink, take } = receiving(4);
    await take(3, [task(3)]);
    await take(4, [task(4)]);
    await take(5, [task(5)]);
    await take(4, [task(4), task(44)]);
    expect(sink.lines).toEqual([task(4), task(5), task(44)]);
    expect(sink.nextBatch).toBe(6);
  });

  it('is given an end where its page gives none, once', async () => {
    const { receiver, sink, done, take, settle } = receiving();
    await take(0, [HEADER, task(70)]);
    receiver.end('target-left');
    receiver.end('interrupted');
    await settle();
    expect(sink.lines.at(-1)).toBe(JSON.stringify({ kind: 'end', startMs: 70, reason: 'target-left' }));
    expect(done.at(-1)).toBe('end target-left');
    await take(1, [task(80)]);
    expect(sink.lines).toHaveLength(3);
  });

  it('ends with what there is where it is full, and says an error once', async () => {
    const { sink, done, take } = receiving();
    await take(0, [HEADER]);
    sink.error = new Error('no disk');
    await take(1, [task(10)]);
    await take(2, [task(20)]);
    expect(done).toEqual(['acknowledge 0', 'error no disk false']);
  });

  it('acknowledges what comes again only once it is kept', async () => {
    const { sink, done, take, settle } = receiving();
    let keep = () => {};
    const kept = new Promise<void>((resolve) => (keep = resolve));
    vi.spyOn(sink, 'append').mockReturnValueOnce(kept);
    await take(0, [HEADER]);
    await take(0, [HEADER]);
    expect(done).toEqual([]);
    keep();
    await settle();
    expect(done).toEqual(['acknowledge 0', 'acknowledge 0']);
  });

  it('acknowledges only what is kept, with all before it, in whatever order batches come', async () => {
    const arrivals = fc.array(fc.nat(11), { maxLength: 60 });
    await fc.assert(
      fc.asyncProperty(arrivals, async (sequences) => {
        const { sink, done, take } = receiving();
        for (const sequence of sequences) {
          await take(sequence, [sequence === 0 ? HEADER : task(sequence)]);
          const acknowledged = done.map((one) => Number(one.split(' ')[1]));
          expect(sink.lines).toHaveLength(new Set(acknowledged).size);
          expect(Math.max(-1, ...acknowledged)).toBe(sink.lines.length - 1);
        }
      }),
      { numRuns: 60 },
    );
  });
});
