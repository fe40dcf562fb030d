import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { callTree } from '../calls/call-tree';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { flameSvg } from '../export/flame-svg';
import { foldedStacks } from '../export/folded';
import { tableAsCsv } from '../export/tables';
import { weightUnit } from '../recording/weights';
import { callsReport } from '../report/calls-report';
import { httpArchive } from '../export/http-archive';
import { performanceEntries } from '../export/performance-entries';
import { selfProfile } from '../export/self-profile';
import { RefusedRecordingError } from '../format/errors';
import { displayName } from '../recording/functions';
import { readRecording } from '../recording/read';
import type { Recording } from '../recording/recording';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { recorded } from '../testing/recorded';
import { linesOfOpenFormat } from './open-formats';

const FACTS = { name: 'quay', writtenMs: Date.parse('2026-11-20T12:00:00Z') };

function read(text: string): Recording {
  const lines = [...linesOfOpenFormat(text, FACTS)].map((line) => `${line}\n`).join('');
  const { recording, notices } = readRecording([new TextEncoder().encode(lines)]);
  expect(notices).toEqual([]);
  return recording;
}

const lost = ({ events }: Recording) => [...events.drop.rows()].map(({ reason }) => reason).join(' ');
const refusal = (text: string): string => {
  try {
    read(text);
    return 'read';
  } catch (error) {
    expect(error).toBeInstanceOf(RefusedRecordingError);
    return (error as RefusedRecordingError).detail;
  }
};

/** Written by hand from the specifications of Event Timing, Long Tasks, Long Animation Frames, User and Resource Timing. */
const ENTRIES = [
  { name: 'first-paint', entryType: 'paint', startTime: 180, duration: 0 },
  {
    name: 'pointerdown',
    entryType: 'first-input',
    startTime: 1000,
    duration: 320,
    processingStart: 1020,
    processingEnd: 1280,
    cancelable: true,
    interactionId: 7,
  },
  {
    name: 'pointerdown',
    entryType: 'event',
    startTime: 1000,
    duration: 320,
    processingStart: 1020,
    processingEnd: 1280,
    cancelable: true,
    interactionId: 7,
  },
  { name: 'self', entryType: 'longtask', startTime: 1005, duration: 290, attribution: [] },
  {
    name: 'long-animation-frame',
    entryType: 'long-animation-frame',
    startTime: 1002,
    duration: 310,
    renderStart: 1290,
    styleAndLayoutStart: 1295,
    firstUIEventTimestamp: 1000,
    blockingDuration: 240,
    scripts: [
      {
        name: 'script',
        entryType: 'script',
        startTime: 1020,
        duration: 250,
        invoker: 'BUTTON#board-all.onclick',
        invokerType: 'event-listener',
        windowAttribution: 'self',
        executionStart: 1020,
        forcedStyleAndLayoutDuration: 12,
        pauseDuration: 0,
        sourceURL: 'http://localhost:4781/desk.js?secret=1',
        sourceFunctionName: 'boardAll',
        sourceCharPosition: 120,
      },
    ],
  },
  { name: 'stow', entryType: 'measure', startTime: 1030, duration: 80, detail: null },
  {
    name: 'http://localhost:4781/api/departures?key=secret',
    entryType: 'resource',
    startTime: 400,
    duration: 90,
    initiatorType: 'fetch',
    responseStart: 470,
    transferSize: 1200,
    responseStatus: 200,
  },
  { name: 'hydrated', entryType: 'soft-navigation', startTime: 300, duration: 0 },
  { name: 'lost', entryType: 'mark' },
];

describe('performance entries', () => {
  it('become a slow response with the script that held it up', () => {
    const recording = read(JSON.stringify(ENTRIES));
    const [sting] = findStings(recording, DEFAULT_THRESHOLDS);
    expect(sting).toMatchObject({ kind: 'slow-response', feltMs: 320, startMs: 1000 });
    expect(sting!.interaction).toMatchObject({ processingStartMs: 1020, processingEndMs: 1280 });
    const [handler] = [...recording.events.handler.rows()];
    expect(handler).toMatchObject({ invoker: 'BUTTON#board-all.onclick', forcedMs: 12, durationMs: 250 });
    expect(recording.functions.get(handler!.function!)).toMatchObject({ name: 'boardAll', position: 120 });
    expect([...recording.events.input.rows()]).toHaveLength(1);
    expect(recording.header.available).toEqual(
      expect.arrayContaining(['event', 'longtask', 'long-animation-frame', 'measure', 'resource', 'paint']),
    );
  });

  it('keep no query, and say what could not be shown', () => {
    const recording = read(JSON.stringify(ENTRIES));
    expect(JSON.stringify([...recording.sources.values(), ...recording.events.request.rows()])).not.toContain(
      'secret',
    );
    expect(lost(recording)).toMatch(/1 entry of type "soft-navigation" cannot be shown.*1 entry has no time/);
  });

  it('are written as they are read', () => {
    const recording = read(JSON.stringify(ENTRIES));
    const again = read(JSON.stringify(performanceEntries(recording)));
    for (const kind of ['input', 'task', 'frame', 'handler', 'span', 'request'] as const)
      expect([...again.events[kind].rows()], kind).toEqual([...recording.events[kind].rows()]);
  });
});

/** Written by hand from the dictionaries of JS Self-Profiling. */
const TRACE = {
  resources: ['http://localhost:4781/desk.js?token=secret'],
  frames: [
    { name: 'onTap', resourceId: 0, line: 3, column: 9 },
    { name: 'stow', resourceId: 0, line: 8, column: 1 },
    { name: 'sort' },
  ],
  stacks: [{ frameId: 0 }, { frameId: 1, parentId: 0 }, { frameId: 2, parentId: 1 }],
  samples: [
    { timestamp: 500 },
    { timestamp: 510, stackId: 1 },
    { timestamp: 520, stackId: 2 },
    { timestamp: 530, stackId: 1 },
    { timestamp: 540 },
  ],
};

describe('a JS Self-Profiling trace', () => {
  it('becomes the calls that its samples show, from its first sample on', () => {
    const recording = read(JSON.stringify(TRACE));
    const [root] = callTree(recording, WIDE_LENS).roots();
    expect(displayName(recording.functions.get(root!.functionId))).toBe('onTap');
    expect(root!.totalMs).toBeCloseTo(30, 3);
    const rows = functionTable(recording, WIDE_LENS).map(({ functionId, selfMs }) => [
      recording.functions.get(functionId)!.name,
      Math.round(selfMs),
    ]);
    expect(rows).toEqual(
      expect.arrayContaining([
        ['stow', 20],
        ['sort', 10],
      ]),
    );
    expect([...recording.sources.values()].map(({ url }) => url)).toEqual(['http://localhost:4781/desk.js']);
  });

  it('is written as it is read', () => {
    const again = selfProfile(read(JSON.stringify(TRACE)), 0);
    expect(again.samples.map(({ timestamp }) => timestamp)).toEqual([0, 10, 20, 30, 40]);
    const path = (stackId: number | undefined): string[] => {
      if (stackId === undefined) return [];
      const { frameId, parentId } = again.stacks[stackId]!;
      return [...path(parentId), again.frames[frameId]!.name];
    };
    expect(again.samples.map(({ stackId }) => path(stackId).join('>'))).toEqual([
      '',
      'onTap>stow',
      'onTap>stow>sort',
      'onTap>stow',
      '',
    ]);
    expect(again.frames[0]).toMatchObject({ resourceId: 0, line: 3, column: 9 });
  });

  it('that refers to nothing is refused with the place', () => {
    expect(refusal(JSON.stringify({ ...TRACE, stacks: [{ frameId: 9 }] }))).toBe(
      'stack 0 of the trace has no frame 9',
    );
    expect(refusal(JSON.stringify({ ...TRACE, samples: [{ timestamp: 1, stackId: 44 }] }))).toContain(
      'sample 0 of the trace has no stack 44',
    );
  });
});

describe('folded stacks', () => {
  const FOLDED =
    'main;loadTimetable (server/timetable.ts:12);parse (node_modules/csv/parse.js:3) 30\nmain;loadTimetable (server/timetable.ts:12) 10\nmain 2\n';

  it('become calls without times, as much as their counts, with places and owners', () => {
    const recording = read(FOLDED);
    expect(recording.header.timeless).toBe(true);
    expect(lost(recording)).toContain('have no times');
    expect(weightUnit(recording.header)).toBe('counts');
    const rows = functionTable(recording, WIDE_LENS).map(({ functionId, selfMs, owner }) => [
      displayName(recording.functions.get(functionId)),
      selfMs,
      owner,
    ]);
    expect(rows).toEqual([
      ['parse', 30, 'library'],
      ['loadTimetable', 10, 'own'],
      ['main', 2, 'own'],
    ]);
  });

  it('are written as they are read, whatever their counts', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.array(fc.constantFrom('main', 'load', 'stow', 'sort'), { minLength: 1, maxLength: 6 }),
            fc.integer({ min: 1, max: 500 }),
          ),
          { minLength: 1, maxLength: 30 },
        ),
        (stacks) => {
          const sums = new Map<string, number>();
          for (const [path, count] of stacks)
            sums.set(path.join(';'), (sums.get(path.join(';')) ?? 0) + count);
          const text = stacks.map(([path, count]) => `${path.join(';')} ${count}`).join('\n');
          const [unit, ...lines] = foldedStacks(read(text));
          expect(unit).toBe('# unit: counts');
          const written = lines.map((line) => /^(.*) (\d+)$/.exec(line)!);
          expect(new Map(written.map(([, path, count]) => [path, Number(count)]))).toEqual(sums);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('keep their names, places and weights to the letter, however large or small', () => {
    const text = ['main;stow (src/deck/stow.ts:12:7) 900000000', 'main;sort (a b) 0.25', 'main 1'];
    const written = [...foldedStacks(read(text.join('\n')))];
    expect(new Set(written)).toEqual(new Set(['# unit: counts', ...text]));
  });

  it('are what they say they are: bytes are no milliseconds, and times are', () => {
    const bytes = read('# unit: bytes\nmain;stow 4096\n');
    expect(weightUnit(bytes.header)).toBe('bytes');
    expect([...foldedStacks(bytes)]).toEqual(['# unit: bytes', 'main;stow 4096']);
    expect(flameSvg(bytes)).toContain('main, no place known: 4,096 bytes');
    expect([...tableAsCsv(bytes, 'functions')][0]).toContain('self (bytes)');
    expect(callsReport(bytes, WIDE_LENS)).toMatchObject({ recording: { unit: 'bytes' } });
    const times = read('# unit: microseconds\nmain;stow 1500.25\n');
    expect(weightUnit(times.header)).toBe('ms');
    expect(functionTable(times, WIDE_LENS)[0]!.selfMs).toBeCloseTo(1.50025, 9);
    expect([...foldedStacks(times)]).toEqual(['# unit: microseconds', 'main;stow 1500.25']);
  });
});

/** Written by hand from the specification of HTTP Archive 1.2. */
const ARCHIVE = {
  log: {
    version: '1.2',
    creator: { name: 'by hand', version: '1' },
    pages: [{ startedDateTime: '2026-11-20T12:40:00.000Z', id: 'page', title: 'Desk', pageTimings: {} }],
    entries: [
      {
        startedDateTime: '2026-11-20T12:40:00.250Z',
        time: 120,
        request: {
          method: 'GET',
          url: 'http://localhost:4781/api/departures?key=secret',
          httpVersion: 'HTTP/1.1',
          cookies: [{ name: 'sid', value: 'secret' }],
          headers: [{ name: 'Authorization', value: 'secret' }],
          queryString: [],
          headersSize: 90,
          bodySize: 0,
        },
        response: {
          status: 200,
          statusText: 'OK',
          httpVersion: 'HTTP/1.1',
          cookies: [],
          headers: [],
          content: { size: 4000, mimeType: 'application/json', text: 'secret' },
          redirectURL: '',
          headersSize: 80,
          bodySize: 1500,
        },
        cache: {},
        timings: { blocked: -1, dns: 4, connect: 6, send: 1, wait: 79, receive: 30 },
      },
      { startedDateTime: 'yesterday', time: 5, request: { url: 'http://localhost:4781/' } },
    ],
  },
};

describe('an HTTP Archive', () => {
  it('becomes requests with their waiting and their size, and nothing secret', () => {
    const recording = read(JSON.stringify(ARCHIVE));
    expect([...recording.events.request.rows()]).toMatchObject([
      {
        startMs: 250,
        durationMs: 120,
        responseStartMs: 340,
        bytes: 1500,
        status: 200,
        url: 'http://localhost:4781/api/departures',
      },
    ]);
    expect(recording.header.startedAt).toBe('2026-11-20T12:40:00.000Z');
    expect([...linesOfOpenFormat(JSON.stringify(ARCHIVE), FACTS)].join()).not.toContain('secret');
    expect(lost(recording)).toContain('1 entry has no time or address');
  });

  it('is written as it is read', () => {
    const original = recorded('departures-poll');
    const again = read(JSON.stringify(httpArchive(original)));
    // An archive may begin before the recording did: what was on its way then.
    const kept = ({ events }: Recording) => {
      const requests = [...events.request.rows()];
      return requests.map(({ url, startMs, durationMs, status }) => [
        url,
        Math.round(startMs - requests[0]!.startMs),
        durationMs,
        status,
      ]);
    };
    expect(kept(again)).toEqual(kept(original));
  });
});
