import { describe, expect, it } from 'vitest';
import { compareRecordings } from '../compare/compare';
import { packCounts } from '../format/packed-counts';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { checkBudget } from './budget';
import { budgetSchema } from './budget-schema';
import { comparisonMarkdown } from './comparison-report';
import { explainReport } from './explain-report';

const explain = (name: string) => explainReport(recorded(name), DEFAULT_THRESHOLDS);

describe('the report of stings', () => {
  it('accounts for every millisecond of each', () => {
    for (const { startMs, endMs, blame, phases } of explain('deck-drag').stings) {
      const sum = Object.values(blame).reduce((a, b) => a + b, 0);
      expect(sum).toBeCloseTo(endMs - startMs, 1);
      expect(phases.waitingMs + phases.handlingMs + phases.drawingMs).toBeCloseTo(endMs - startMs, 1);
    }
  });

  it('names the function, the place and the forced layout', () => {
    const [drag] = explain('deck-drag').stings;
    expect(drag).toMatchObject({ kind: 'late-frames', label: 'Listener onDragMove' });
    expect(drag!.culprits[0]).toMatchObject({
      name: 'makeRoomOneByOne',
      file: 'src/desk/deck/drag.ts',
      owner: 'own',
    });
    expect(drag!.forcedLayouts[0]).toMatchObject({
      name: 'makeRoomOneByOne',
      file: 'src/desk/deck/drag.ts',
      read: 'offsetLeft',
      write: 'style',
    });
    expect(drag!.forcedLayouts[0]!.count).toBeGreaterThan(100);
  });

  it('tells how often a function was called, or between which numbers', () => {
    const calledIn = (name: string) =>
      explain(name).stings[0]!.culprits.map(({ count, calledAtLeast, calledAtMost }) => [
        count,
        calledAtLeast,
        calledAtMost,
      ]);
    expect(calledIn('board-all').every((called) => called.join() === '0,,')).toBe(true);
    const exact = calledIn('board-all-exact');
    expect(exact.some(([count]) => count! > 1000)).toBe(true);
    for (const [count, least, most] of exact.filter(([, one]) => one !== null))
      expect([least, most]).toEqual([count, count]);
  });

  it('tells how often a function was called at least and at most by counts that are told once a second', () => {
    const counted = (startMs: number, durationMs: number, count: number): Row => ({
      kind: 'counts',
      ...packCounts(0, startMs, durationMs, { functions: [0], counts: [count] }),
    });
    const told = (...counts: Row[]) => {
      const recording = recordingOf([
        { kind: 'function', id: 0, name: 'trimOfPair' },
        { kind: 'stack', id: 0, function: 0 },
        { kind: 'task', thread: 0, startMs: 900, durationMs: 2200, source: 'own' },
        {
          kind: 'samples',
          ...packSamples(0, 10, {
            timesUs: Array.from({ length: 219 }, (_, at) => (905 + at * 10) * 1000),
            stacks: Array.from({ length: 219 }, () => 0),
          }),
        },
        ...counts,
      ]);
      const [sting] = explainReport(recording, DEFAULT_THRESHOLDS).stings;
      const { name, count, calledAtLeast, calledAtMost } = sting!.culprits[0]!;
      return [name, count, calledAtLeast, calledAtMost];
    };
    expect(told(counted(0, 1000, 7), counted(1000, 1000, 500), counted(2000, 1000, 300))).toEqual([
      'trimOfPair',
      0,
      800,
      807,
    ]);
    expect(told()).toEqual(['trimOfPair', 0, null, null]);
  });

  it('tells how it came to it', () => {
    const poll = explain('departures-poll').stings.find(({ label }) => label === 'Answer to api/departures')!;
    expect(poll.cause.map(({ type, what }) => `${type} ${what.replace(/http:.*\/api/, '/api')}`)).toEqual([
      'schedule interval',
      'handler TimerHandler:setInterval',
      'schedule /api/departures',
      'handler fetch /api/departures',
    ]);
  });
});

const budget = (fields: object) => budgetSchema.validateSync(fields, { strict: true });
const check = (name: string, fields: object) =>
  checkBudget(recorded(name), budget({ responses: [], callsASecond: [], ...fields }));

describe('a budget', () => {
  it('is exceeded by a fault and kept by its mended version', () => {
    const responses = [{ label: '*', ms: 200 }];
    expect(check('board-all', { responses }).map(({ kept }) => kept)).toEqual([false]);
    expect(check('board-all-mended', { responses }).map(({ kept }) => kept)).toEqual([true]);
    expect(check('deck-drag', { forcedLayouts: 50 })[0]!.kept).toBe(false);
    expect(check('deck-drag-mended', { forcedLayouts: 50 })[0]!.kept).toBe(true);
    expect(check('tide-chart', { idleShare: 0.05 })[0]!.kept).toBe(false);
    expect(check('tide-chart-mended', { idleShare: 0.05 })[0]!.kept).toBe(true);
    const callsASecond = [{ name: 'bendingOfPair', calls: 100 }];
    expect(check('board-all-exact', { callsASecond })[0]).toMatchObject({ kept: false, unit: 'a second' });
    expect(check('board-all-exact-mended', { callsASecond })[0]).toMatchObject({ kept: true, found: 0 });
    expect(check('departures-poll', { longTaskMs: 100 })[0]!.kept).toBe(false);
  });

  it('lets a label have its own', () => {
    const responses = [
      { label: '*', ms: 200 },
      { label: 'Tap button “Board all”', ms: 5000 },
    ];
    expect(check('board-all', { responses })[0]).toMatchObject({ allowed: 5000, kept: true });
  });

  it('is neither kept nor exceeded by a delay of which only a bound above it is known', () => {
    const quick = recordingOf([
      {
        kind: 'input',
        thread: 0,
        startMs: 100,
        durationMs: 0,
        belowMs: 16,
        type: 'click',
        interaction: 1,
        target: 'button “Undo”',
      },
    ]);
    const allowing = (ms: number) => budget({ responses: [{ label: '*', ms }], callsASecond: [] });
    expect(checkBudget(quick, allowing(10))).toMatchObject([{ found: 16, isBound: true, kept: undefined }]);
    expect(checkBudget(quick, allowing(20))).toMatchObject([{ found: 16, isBound: true, kept: true }]);
  });

  it('refuses what it does not know, naming it', () => {
    expect(() => budget({ respones: [] })).toThrow('respones');
    expect(() => budget({ idleShare: 2 })).toThrow('idleShare');
  });
});

describe('a comparison as Markdown', () => {
  it('takes no name for Markdown or HTML', () => {
    const rows: Row[] = [
      { kind: 'function', id: 0, name: '<img src=x>|[a](b)', owner: 'own' },
      { kind: 'stack', id: 0, function: 0 },
      {
        kind: 'handler',
        thread: 0,
        startMs: 0,
        durationMs: 80,
        type: 'event-listener',
        invoker: 'B',
        function: 0,
      },
    ];
    const before = recordingOf(rows, deskHeader({ title: '# Desk' }));
    const after = recordingOf([], deskHeader({ title: '# Desk' }));
    const markdown = comparisonMarkdown(before, after, compareRecordings(before, after));
    expect(markdown).toContain('\\<img src=x\\>\\|\\[a\\]\\(b\\)');
    expect(markdown).toContain('### \\# Desk: before and after');
    expect(markdown).not.toMatch(/[^\\]<img/);
  });
});
