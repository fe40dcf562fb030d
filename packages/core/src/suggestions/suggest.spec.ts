import { describe, expect, it } from 'vitest';
import { anatomyOf } from '../explanation/anatomy';
import { becauseText } from '../explanation/sentence';
import type { Row } from '../format/rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskRun, deskTap } from '../testing/desk-rows';
import { suggestionsFor } from './suggest';

const CODE: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
  { kind: 'function', id: 1, name: 'pollDepartures', source: 0 },
];
const click = (startMs: number, durationMs: number, handling: [number, number]) =>
  deskTap(startMs, durationMs, {
    interaction: 1,
    processingStartMs: handling[0],
    processingEndMs: handling[1],
  });
const handler = (startMs: number, durationMs: number, functionId: number, more: object = {}) =>
  deskRun(startMs, durationMs, functionId, { invoker: 'BUTTON.onclick', ...more });

/** The advice for the worst sting of some rows: its kind, what to do, and what was seen. */
function advice(...rows: Row[]): { kind: string; words: string }[] {
  const recording = recordingOf([...CODE, ...rows], deskHeader({ available: ['handlers'] }));
  const [worst] = findStings(recording, DEFAULT_THRESHOLDS);
  return suggestionsFor(recording, anatomyOf(recording, worst!)).map(({ kind, advice: what, evidence }) => ({
    kind,
    words: `${becauseText(what)} ${becauseText(evidence)}`,
  }));
}

describe('advice', () => {
  it('names the timer whose work stood in the way of an input', () => {
    const found = advice(
      { kind: 'schedule', thread: 0, startMs: 0, id: 7, type: 'interval', delayMs: 4000 },
      handler(1000, 180, 1, { schedule: 7 }),
      click(1010, 400, [1180, 1390]),
      handler(1180, 200, 0),
    );
    expect(found.find(({ kind }) => kind === 'out-of-the-way')?.words).toBe(
      'Do less of what a timer of 4000 ms starts, do it when nobody waits, or in a worker. pollDepartures, started by a timer of 4000 ms, stood in the way for 170 ms.',
    );
  });

  it('says that a loop reads after it has written, and how often', () => {
    const found = advice(click(0, 400, [2, 380]), handler(2, 370, 0), {
      kind: 'forced',
      thread: 0,
      startMs: 10,
      durationMs: 300,
      count: 120,
      costMs: 240,
      styleMs: 20,
      layoutMs: 220,
      read: 'offsetLeft',
      write: 'style',
      function: 0,
    });
    expect(found.find(({ kind }) => kind === 'read-before-write')).toEqual({
      kind: 'read-before-write',
      words:
        'Read offsetLeft of all elements first in onBoardAll, and write style only then. offsetLeft was read after style had been written 120 times in one task: 240 ms of layout.',
    });
  });

  /** What is drawn eight times where nobody sees it. */
  const drawnUnseen = (more?: object) =>
    Array.from({ length: 8 }, (_, index): Row[] => [
      handler(index * 70, 60, 1),
      {
        kind: 'redraw',
        thread: 0,
        startMs: index * 70 + 60,
        nodes: 40,
        attributes: 0,
        texts: 0,
        changed: true,
        inView: false,
        target: 'list “Manifest rows”',
        function: 1,
        ...more,
      },
      {
        kind: 'render',
        thread: 0,
        startMs: index * 70 + 60,
        durationMs: 8,
        styleMs: 1,
        layoutMs: 2,
        paintMs: 5,
      },
    ]).flat();

  it('says what is drawn outside the view', () => {
    const found = advice(...drawnUnseen());
    expect(found.map(({ kind }) => kind)).toContain('skip-unseen');
    expect(found.find(({ kind }) => kind === 'skip-unseen')?.words).toContain('list “Manifest rows”');
    expect(advice(...drawnUnseen({ more: 300 })).map(({ kind }) => kind)).not.toContain('skip-unseen');
  });

  it('says what is moved frame by frame in a way that has the page laid out', () => {
    const rows = Array.from({ length: 20 }, (_, index): Row[] => [
      handler(index * 45, 30, 1),
      {
        kind: 'redraw',
        thread: 0,
        startMs: index * 45 + 30,
        nodes: 0,
        attributes: 1,
        texts: 0,
        changed: true,
        inView: true,
        target: 'element “Notice text”',
        function: 1,
      },
      {
        kind: 'render',
        thread: 0,
        startMs: index * 45 + 30,
        durationMs: 12,
        styleMs: 1,
        layoutMs: 6,
        paintMs: 5,
      },
    ]).flat();
    const moved = advice(...rows).find(({ kind }) => kind === 'move-by-transform');
    expect(moved?.words).toBe(
      'Move element “Notice text” by a transform in pollDepartures, so that nothing is laid out for it. It was moved in 20 frames in a row, each of which laid the page out: 120 ms together.',
    );
  });

  it('is not given without evidence', () => {
    expect(advice({ kind: 'task', thread: 0, startMs: 0, durationMs: 90, source: 'longtask' })).toEqual([]);
  });
});
