import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ROW_SHAPES, type Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { TextPool } from './column';
import { Samples } from './samples';
import { Table } from './table';

describe('a table of events', () => {
  it('gives back each row with just the fields it had', () => {
    const table = new Table(ROW_SHAPES.input, new TextPool());
    const rows = Array.from({ length: 40 }, (_, index) => ({
      thread: 0,
      startMs: index / 3,
      durationMs: 8,
      type: 'click',
      ...(index % 2 === 0 ? { target: `button “Lane ${index}”`, interaction: index } : {}),
    }));
    for (const row of rows) table.push(row);
    expect([...table.rows()]).toEqual(rows);
  });

  it('sorts by start, equal starts as they came, and unknown fields with their row', () => {
    const table = new Table(ROW_SHAPES.task, new TextPool());
    const row = (startMs: number, source: string) => ({ thread: 0, startMs, durationMs: 60, source });
    table.push({ ...row(30, 'c'), swell: 3 });
    table.push(row(10, 'a'));
    table.push({ ...row(10, 'b'), swell: 1 });
    table.sort();
    expect([...table.rows()]).toEqual([
      row(10, 'a'),
      { ...row(10, 'b'), swell: 1 },
      { ...row(30, 'c'), swell: 3 },
    ]);
  });
});

describe('samples', () => {
  const samples = new Samples(10, [10_000, 20_000, 30_000, 200_000], [0, 1, -1, 2]);

  it('finds the first at or after a time', () => {
    expect([0, 10, 10.5, 199, 201].map((ms) => samples.firstAtOrAfter(ms))).toEqual([0, 0, 1, 3, 4]);
  });

  it('lets a sample speak up to the middle to its neighbours, but not across a gap', () => {
    expect(samples.stretch(1)).toEqual({ startMs: 15, endMs: 25 });
    expect(samples.stretch(2)).toEqual({ startMs: 25, endMs: 50 });
    expect(samples.stretch(3)).toEqual({ startMs: 180, endMs: 220 });
  });

  it('are put in order of time', () => {
    const shuffled = new Samples(10, [30_000, 10_000], [7, 5]);
    expect([...shuffled.timesUs]).toEqual([10_000, 30_000]);
    expect([...shuffled.stacks]).toEqual([5, 7]);
  });
});

describe('events that overlap a range', () => {
  it('are those a look at every event would find', () => {
    const event = fc.record({
      startMs: fc.integer({ min: 0, max: 500 }),
      durationMs: fc.integer({ min: 0, max: 200 }),
    });
    fc.assert(
      fc.property(
        fc.array(event),
        fc.integer({ min: -50, max: 600 }),
        fc.integer({ min: 0, max: 300 }),
        (events, startMs, lengthMs) => {
          const table = new Table(ROW_SHAPES.task, new TextPool());
          for (const { startMs: at, durationMs } of events)
            table.push({ thread: 0, startMs: at, durationMs, source: 'longtask' });
          table.sort();
          const all = [...table.rows()].filter(
            (row) => row.startMs < startMs + lengthMs && row.startMs + row.durationMs > startMs,
          );
          expect([...table.overlapping(startMs, startMs + lengthMs)]).toEqual(all);
        },
      ),
    );
  });
});

it('rows of a thread with a clock of its own are put on the clock of the recording', () => {
  const task = (thread: number, startMs: number): Row => ({
    kind: 'task',
    thread,
    startMs,
    durationMs: 60,
    source: 'longtask',
  });
  const recording = recordingOf([
    task(1, 1000),
    { kind: 'offset', thread: 1, startMs: 0, offsetMs: -400 },
    task(1, 1500),
    task(0, 1200),
  ]);
  expect([...recording.events.task.rows()].map(({ thread, startMs }) => [thread, startMs])).toEqual([
    [1, 1000],
    [1, 1100],
    [0, 1200],
  ]);
});
