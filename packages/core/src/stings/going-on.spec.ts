import { describe, expect, it } from 'vitest';
import { CALL_END, packCalls } from '../format/packed-calls';
import type { Row } from '../format/rows';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, deskRun as run, deskTap as tap, end, picture } from '../testing/desk-rows';
import { creep, type CreepDetail } from '../detectors/creep';
import { forcedLayout } from '../detectors/forced-layout';
import { idleWork } from '../detectors/idle-work';
import { lateFrames } from '../detectors/late-frames';
import { movedByLayout } from '../detectors/moved-by-layout';
import { idleIntervals, withinRanges } from './idle-intervals';
import { redrawnTooOften } from '../detectors/redrawn-too-often';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { tooOften } from '../detectors/too-often';

const HEADER = deskHeader({ available: ['handlers'] });
const CODE = deskFunctions('drawTide', 'tick');
const make = (...rows: Row[]) => recordingOf([...CODE, ...rows], HEADER);
const redraw = (startMs: number, changed: boolean, inView = true, more: object = {}): Row => ({
  kind: 'redraw',
  thread: 0,
  startMs,
  nodes: 0,
  attributes: 1,
  texts: 0,
  changed,
  inView,
  target: 'image “Tide”',
  function: 0,
  ...more,
});
/** Frames at the display's pace, each with so much script before its picture. */
const frames = (count: number, scriptMs: number, startMs = 0): Row[] =>
  Array.from({ length: count }, (_, index) => {
    const atMs = startMs + index * Math.max(16.67, scriptMs + 5);
    return [run(atMs, scriptMs), picture(atMs + scriptMs)];
  }).flat();

describe('late frames', () => {
  it('are a run of pictures that came later than the display waits', () => {
    const [sting, ...others] = lateFrames.find(make(...frames(6, 60), end(1000)), DEFAULT_THRESHOLDS);
    expect(others).toEqual([]);
    expect(sting).toMatchObject({ label: 'Frame callback drawTide', detail: { late: 6, missed: 18 } });
    expect(sting!.feltMs).toBeCloseTo(64);
  });

  it('are none where frames keep pace, where they are few, or where one of them is most of it', () => {
    expect(lateFrames.find(make(...frames(20, 8), end(1000)), DEFAULT_THRESHOLDS)).toEqual([]);
    expect(lateFrames.find(make(...frames(2, 60), end(1000)), DEFAULT_THRESHOLDS)).toEqual([]);
    const hang = [...frames(1, 800), ...frames(2, 40, 900)];
    expect(lateFrames.find(make(...hang, end(2000)), DEFAULT_THRESHOLDS)).toEqual([]);
  });

  it('are told as the answer where an input waited for them', () => {
    const slow = make(tap(0, 420), ...frames(6, 60), end(1000));
    expect(lateFrames.find(slow, DEFAULT_THRESHOLDS)).toEqual([]);
  });

  it('further apart than a moment are two runs', () => {
    const two = make(...frames(6, 60), ...frames(6, 60, 2000), end(4000));
    expect(lateFrames.find(two, DEFAULT_THRESHOLDS)).toHaveLength(2);
  });
});

describe('quiet stretches', () => {
  it('begin when an answer has settled, and end with the next input', () => {
    const quiet = idleIntervals(make(tap(2000, 100), tap(6000, 50), end(9000)));
    expect(quiet).toEqual([
      { startMs: 0, endMs: 2000 },
      { startMs: 3100, endMs: 6000 },
      { startMs: 7050, endMs: 9000 },
    ]);
  });

  it('are none while somebody moves the mouse, of which only listeners tell', () => {
    const listener = (startMs: number, invoker: string): Row => ({
      kind: 'handler',
      thread: 0,
      startMs,
      durationMs: 20,
      type: 'event-listener',
      invoker,
    });
    const moves = (invoker: string) =>
      Array.from({ length: 30 }, (_, at) => listener(2000 + at * 100, `HTMLDocument.${invoker}`));
    expect(idleIntervals(make(...moves('onmousemove'), end(9000)))).toEqual([
      { startMs: 0, endMs: 2000 },
      { startMs: 5920, endMs: 9000 },
    ]);
    expect(idleIntervals(make(...moves('onscroll'), end(9000)))).toEqual([{ startMs: 0, endMs: 9000 }]);
  });

  it('leave out pauses, and what is too short to be called quiet', () => {
    const quiet = idleIntervals(make({ kind: 'pause', startMs: 500, durationMs: 3000 }, end(4000)));
    expect(quiet).toEqual([]);
  });

  it('are looked up for times that go on', () => {
    const isQuiet = withinRanges([
      { startMs: 0, endMs: 10 },
      { startMs: 20, endMs: 30 },
    ]);
    expect([0, 9, 10, 15, 20, 29, 30].map(isQuiet)).toEqual([true, true, false, false, true, true, false]);
  });
});

describe('idle work', () => {
  const drawing = (changed: boolean, inView: boolean, more?: object) =>
    Array.from({ length: 60 }, (_, index) => [
      run(index * 50, 5),
      redraw(index * 50 + 5, changed, inView, more),
      picture(index * 50 + 5),
    ]).flat();
  const found = (...rows: Row[]) => idleWork.find(make(...rows, end(3000)), DEFAULT_THRESHOLDS);

  it('is what draws the same again and again while nobody does anything', () => {
    const [sting] = found(...drawing(false, true));
    expect(sting).toMatchObject({
      label: 'Idle work of drawTide',
      detail: { unchangedShare: 1, unseenShare: 0 },
    });
    expect(sting!.feltMs).toBeCloseTo(100, 0);
  });

  it('is what draws where nobody can see it', () => {
    expect(found(...drawing(true, false))[0]).toMatchObject({ detail: { unseenShare: 1 } });
  });

  it('is not what can be seen to change, nor what writes nothing to the page', () => {
    expect(found(...drawing(true, true))).toEqual([]);
    expect(found(...drawing(false, true).filter(({ kind }) => kind !== 'redraw'))).toEqual([]);
  });

  it('is not what wrote more than was looked at: that may have been seen to change', () => {
    expect(found(...drawing(false, true, { more: 40 }))).toEqual([]);
    expect(found(...drawing(true, false, { more: 40 }))).toEqual([]);
    expect(found(...drawing(false, true, { more: 0 }))).toHaveLength(1);
  });

  it('is not what answers somebody', () => {
    const taps = Array.from({ length: 6 }, (_, index) => tap(index * 500, 40));
    expect(found(...drawing(false, true), ...taps)).toEqual([]);
  });

  it('is not what costs next to nothing', () => {
    const cheap = drawing(false, true).map((row) =>
      row.kind === 'handler' ? { ...row, durationMs: 0.5 } : row,
    );
    expect(found(...cheap)).toEqual([]);
  });
});

describe('layout in every frame', () => {
  /** Thirty frames a second for ten seconds, each with 2 ms of style and layout, and what is written in it. */
  const moving = (written: (atMs: number) => Row[]) => {
    const rows = Array.from({ length: 300 }, (_, index) => {
      const atMs = index * 33;
      return [run(atMs, 0.5), ...written(atMs + 1), picture(atMs + 1)];
    });
    return movedByLayout.find(make(...rows.flat(), end(9900)), DEFAULT_THRESHOLDS);
  };

  it('is what writes attributes in frame after frame, with what style and layout cost', () => {
    const [sting, ...others] = moving((atMs) => [redraw(atMs, true)]);
    expect(others).toEqual([]);
    expect(sting).toMatchObject({
      label: 'Layout in every frame by drawTide',
      detail: { type: 'moved-by-layout', functionId: 0, target: 'image “Tide”' },
    });
    expect(sting!.feltMs).toBeCloseTo(600 / 9.9);
  });

  it('counts a frame once, however much is written in it, and what others change costs them their part', () => {
    const lone = moving((atMs) => [redraw(atMs, true), redraw(atMs, true, true, { target: 'image “Pier”' })]);
    expect(lone.map(({ feltMs }) => feltMs)).toEqual([expect.closeTo(600 / 9.9)]);
    expect(lone[0]!.detail).toMatchObject({ timesASecond: expect.closeTo(300 / 9.9) });
    const shared = moving((atMs) => [redraw(atMs, true), redraw(atMs, true, true, { function: 1 })]);
    expect(shared.map(({ label }) => label)).toEqual([
      'Layout in every frame by drawTide',
      'Layout in every frame by tick',
    ]);
    for (const { feltMs } of shared) expect(feltMs).toBeCloseTo(300 / 9.9);
  });

  it('is not what adds to the page, what nobody can see, nor what writes the same again', () => {
    expect(moving((atMs) => [redraw(atMs, true, true, { nodes: 2 })])).toEqual([]);
    expect(moving((atMs) => [redraw(atMs, true, true, { more: 300 })])).toEqual([]);
    expect(moving((atMs) => [redraw(atMs, true, false)])).toEqual([]);
    expect(moving((atMs) => [redraw(atMs, false)])).toEqual([]);
  });
});

describe('redraws that are too many', () => {
  const busy = (changed: (index: number) => boolean) =>
    Array.from({ length: 60 }, (_, index) => [
      run(index * 50, 5),
      redraw(index * 50 + 5, changed(index)),
      picture(index * 50 + 5),
      ...(index % 10 === 0 ? [tap(index * 50, 40)] : []),
    ]).flat();
  const found = (...rows: Row[]) => redrawnTooOften.find(make(...rows, end(3000)), DEFAULT_THRESHOLDS);

  it('are those of one function that mostly change nothing, with the share', () => {
    const [sting] = found(...busy((index) => index % 4 === 0));
    expect([redrawnTooOften.kind, sting!.label]).toEqual(['too-often', 'Too many redraws of drawTide']);
    const { unchangedShare, timesASecond } = sting!.detail as {
      unchangedShare: number;
      timesASecond: number;
    };
    expect(unchangedShare).toBeCloseTo(0.75);
    expect(timesASecond).toBeCloseTo(20, 0);
  });

  it('are none where most of them show something new, and are told as idle work where nobody does anything', () => {
    expect(found(...busy((index) => index % 4 !== 0))).toEqual([]);
    expect(found(...busy(() => false).filter(({ kind }) => kind !== 'input'))).toEqual([]);
  });
});

describe('creep', () => {
  const ticks = (cost: (second: number) => number) =>
    Array.from({ length: 20 }, (_, second) =>
      run(second * 1000 + 100, cost(second), 1, { invoker: 'TimerHandler:setInterval' }),
    );
  const found = (...rows: Row[]) => creep.find(make(...rows, end(20_000)), DEFAULT_THRESHOLDS);

  it('is a cost a second that grows, with the slope and its interval', () => {
    const [sting] = found(...ticks((second) => 2 + second * 2));
    expect(sting).toMatchObject({ label: 'Growing cost of tick', detail: { type: 'creep' } });
    const { slope, runs } = sting!.detail as CreepDetail;
    expect(slope.slope).toBeCloseTo(120, 0);
    expect(slope.low).toBeGreaterThan(0);
    expect(runs.to).toBeCloseTo(runs.from);
  });

  it('is none where the cost stays, jumps about or shrinks', () => {
    expect(found(...ticks(() => 30))).toEqual([]);
    expect(found(...ticks((second) => (second % 2) * 30 + 2))).toEqual([]);
    expect(found(...ticks((second) => 60 - second * 2))).toEqual([]);
  });

  it('is not what a person asked for', () => {
    const answers = Array.from({ length: 20 }, (_, second) => [
      tap(second * 1000, 20 + second * 4),
      run(second * 1000 + 2, 10 + second * 4, 1),
    ]).flat();
    expect(found(...answers)).toEqual([]);
  });

  it('is not told of a recording too short for a trend', () => {
    expect(
      creep.find(make(...ticks((second) => 2 + second * 9).slice(0, 6), end(6000)), DEFAULT_THRESHOLDS),
    ).toEqual([]);
  });
});

describe('too many calls', () => {
  /** One task in which tick calls drawTide so often, each time for so long. */
  const task = (times: number, eachUs: number): Row => {
    const timesUs = [0];
    const functions = [1];
    for (let call = 0; call < times; call++) {
      timesUs.push(1 + call * (eachUs + 1), 1 + call * (eachUs + 1) + eachUs);
      functions.push(0, CALL_END);
    }
    timesUs.push(times * (eachUs + 1) + 2);
    functions.push(CALL_END);
    return { kind: 'calls', ...packCalls(0, { timesUs, functions }) };
  };
  const found = (times: number, eachUs: number) =>
    tooOften
      .find(make(task(times, eachUs), end(5000)), DEFAULT_THRESHOLDS)
      .map(({ label, detail }) => [label, detail]);

  it('are those of one function in one task that take longer than a frame', () => {
    expect(found(3000, 10)).toEqual([
      ['Too many calls of drawTide', { type: 'too-often', functionId: 0, calls: 3000, totalMs: 30 }],
    ]);
  });

  it('are none where they are few, or quick', () => {
    expect(found(500, 100)).toEqual([]);
    expect(found(3000, 1)).toEqual([]);
  });
});

describe('forced layout', () => {
  it('counts from so many times and so much time on', () => {
    const forced = (count: number, costMs: number): Row => ({
      kind: 'forced',
      thread: 0,
      startMs: 10,
      durationMs: costMs + 5,
      count,
      costMs,
      styleMs: 1,
      layoutMs: costMs - 1,
      read: 'offsetLeft',
      function: 0,
    });
    const labels = (row: Row) =>
      forcedLayout.find(make(row, end(500)), DEFAULT_THRESHOLDS).map(({ label }) => label);
    expect(labels(forced(40, 30))).toEqual(['Layout forced by drawTide']);
    expect(labels(forced(4, 30))).toEqual([]);
    expect(labels(forced(40, 3))).toEqual([]);
  });
});
