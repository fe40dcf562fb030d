import { describe, expect, it } from 'vitest';
import { anatomyOf } from '../explanation/anatomy';
import { becauseOf } from '../detectors/because';
import { becauseText } from '../explanation/sentence';
import { CALL_END, packCalls } from '../format/packed-calls';
import type { Row } from '../format/rows';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, deskRun as run, deskTap as tap, end, picture } from '../testing/desk-rows';
import { cadencesOf } from './cadence';
import { findStings } from '../detectors/index';
import { lateFrames } from '../detectors/late-frames';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { tooOften } from '../detectors/too-often';

const CODE = deskFunctions('drawTide', 'tick');
const make = (...rows: Row[]) => recordingOf([...CODE, ...rows], deskHeader({ available: ['handlers'] }));

describe('a steady cadence below the display’s rate', () => {
  const at120 = deskHeader({ available: ['handlers'], refreshMs: 1000 / 120 });
  const cadence = (everyMs: number, scriptMs: number, count = 200, startMs = 0): Row[] =>
    Array.from({ length: count }, (_, index) => {
      const atMs = startMs + index * everyMs;
      return [run(atMs, scriptMs), picture(atMs + scriptMs, 3)];
    }).flat();

  it.each([60, 30])('is none of late frames at %d pictures a second on a display of 120', (rate) => {
    const recording = recordingOf([...CODE, ...cadence(1000 / rate, 14), end(8000)], at120);
    expect(lateFrames.find(recording, DEFAULT_THRESHOLDS)).toEqual([]);
    const [told, ...others] = cadencesOf(recording, 0);
    expect(others).toEqual([]);
    expect([told!.picturesASecond, told!.displayASecond].map(Math.round)).toEqual([rate, 120]);
  });

  it('is no cadence where pictures come unsteadily, or less than thirty times a second', () => {
    const slow = recordingOf([...CODE, ...cadence(100, 80, 60), end(8000)], at120);
    expect(cadencesOf(slow, 0)).toEqual([]);
    expect(lateFrames.find(slow, DEFAULT_THRESHOLDS)).toHaveLength(1);
  });
});

describe('calls that are too many', () => {
  it('are counted by function, from wherever it was called', () => {
    const calls = 1500;
    const timesUs: number[] = [0];
    const functions: number[] = [0];
    for (const outer of [2, 3]) {
      timesUs.push(timesUs.at(-1)! + 1);
      functions.push(outer);
      for (let at = 0; at < calls; at++) {
        const us = timesUs.at(-1)! + 1;
        timesUs.push(us, us + 20);
        functions.push(1, CALL_END);
      }
      timesUs.push(timesUs.at(-1)! + 1);
      functions.push(CALL_END);
    }
    timesUs.push(timesUs.at(-1)! + 1);
    functions.push(CALL_END);
    const more: Row[] = [
      { kind: 'function', id: 2, name: 'port', source: 0 },
      { kind: 'function', id: 3, name: 'starboard', source: 0 },
    ];
    const recording = make(...more, { kind: 'calls', ...packCalls(0, { timesUs, functions }) }, end(1000));
    const [sting] = tooOften.find(recording, DEFAULT_THRESHOLDS);
    expect(sting).toMatchObject({ label: 'Too many calls of tick', detail: { calls: 3000, totalMs: 60 } });
  });
});

describe('what is done again and again', () => {
  it('creeps where each time is dearer than the last, and not where one is as dear as the other', () => {
    const taps = (lengthOf: (at: number) => number): Row[] =>
      Array.from({ length: 60 }, (_, at): Row[] => {
        const startMs = at * 500;
        const lengthMs = lengthOf(at);
        return [
          { ...tap(startMs, lengthMs + 20), processingEndMs: startMs + 1 + lengthMs } as Row,
          run(startMs + 1, lengthMs, 1, { type: 'event-listener', invoker: 'BUTTON.onclick' }),
        ];
      }).flat();
    const dearer = make(...taps((at) => 3 + at), end(31_000));
    const [sting, ...others] = findStings(dearer, DEFAULT_THRESHOLDS).filter(({ kind }) => kind === 'creep');
    expect(others).toEqual([]);
    expect(sting).toMatchObject({
      label: 'Each slower than the last: Tap button “Board all”',
      detail: { type: 'input-creep', functionId: 1, attempts: 60 },
    });
    expect(becauseText(becauseOf(dearer, anatomyOf(dearer, sting!)))).toBe(
      'The more often it was done, the longer the tap on button “Board all” was handled: 10 ms at first, 55 ms after 60 times, about 1.0 ms more each time. It was handled by tick.',
    );
    const same = make(...taps((at) => 30 + ((at * 7) % 5)), end(31_000));
    expect(findStings(same, DEFAULT_THRESHOLDS).filter(({ kind }) => kind === 'creep')).toEqual([]);
  });
});

describe('busy stretches of which nothing else is known', () => {
  it('are one sting, with what would make them seen', () => {
    const tasks = [100, 900, 1700].map((startMs): Row => ({
      kind: 'task',
      thread: 0,
      startMs,
      durationMs: 80,
      source: 'longtask',
    }));
    const told = (header = deskHeader()) => {
      const recording = recordingOf([...tasks, end(3000)], header);
      const [sting, ...others] = findStings(recording, DEFAULT_THRESHOLDS);
      expect(others).toEqual([]);
      return becauseText(becauseOf(recording, anatomyOf(recording, sting!)));
    };
    const { target } = deskHeader();
    expect(told(deskHeader({ target: { ...target, url: 'app://deckhand' } }))).toBe(
      'The main thread was busy 3 times with code that was not seen, for 240 ms in all, the longest for 80 ms. What was recorded did not tell what ran in it.',
    );
    expect(told()).toBe(
      'The main thread was busy 3 times with code that was not seen, for 240 ms in all, the longest for 80 ms. This browser takes no samples: a recording in fine mode shows what runs in it.',
    );
  });
});
