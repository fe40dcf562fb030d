import { describe, expect, it } from 'vitest';
import { rangeBreakdown } from '../attribution/range-breakdown';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { csvLines } from './csv';
import { flameSvg } from './flame-svg';
import { foldedStacks } from './folded';
import { httpArchive } from './http-archive';
import { tableAsCsv } from './tables';

const HOSTILE = '<script>alert("x")</script>;a\nb';
const hostile = recordingOf([
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: HOSTILE, source: 0, line: 1 },
  { kind: 'stack', id: 0, function: 0 },
  {
    kind: 'handler',
    thread: 0,
    startMs: 0,
    durationMs: 80,
    type: 'event-listener',
    invoker: 'BUTTON',
    function: 0,
  },
  {
    kind: 'request',
    thread: 0,
    startMs: 5,
    durationMs: 40,
    url: 'http://localhost:4781/api/departures',
    initiator: 'fetch',
    responseStartMs: 25,
    bytes: 900,
    status: 200,
  },
] satisfies Row[]);

describe('folded stacks', () => {
  it('sum to the script of the recording, outermost function first', () => {
    const recording = recorded('board-all-exact');
    const [unit, ...lines] = foldedStacks(recording);
    expect(unit).toBe('# unit: microseconds');
    const us = lines.reduce((sum, line) => sum + Number(/ ([\d.]+)$/.exec(line)![1]), 0);
    const blame = rangeBreakdown(recording, 0, recording.range);
    const scriptMs = blame.scriptOwnMs + blame.scriptLibraryMs;
    expect(us / 1000).toBeGreaterThan(scriptMs - 1);
    expect(us / 1000).toBeLessThan(scriptMs + blame.styleMs + blame.layoutMs + 1);
    expect(
      lines.some((line) =>
        /^onBoardAll .*;show .*;.*;bendingOfPair \([^;]*deck\/trim\.ts:\d+\) [\d.]+$/.test(line),
      ),
    ).toBe(true);
  });

  it('keep a name with a semicolon or a line end in one piece', () => {
    expect([...foldedStacks(hostile)]).toEqual([
      '# unit: microseconds',
      '<script>alert("x")</script> a b (desk.js:1) 80000',
    ]);
  });
});

describe('CSV', () => {
  it('quotes what needs it, and lets no text become a formula', () => {
    expect([
      ...csvLines(
        ['a', 'b'],
        [
          ['x,y', 'say "so"'],
          ['=1+1', null],
          ['-3', -3],
        ],
      ),
    ]).toEqual(['a,b', '"x,y","say ""so"""', "'=1+1,", "'-3,-3"]);
  });

  it.each(['functions', 'stings', 'requests'] as const)('has the table of %s, a line for each', (table) => {
    const lines = [...tableAsCsv(recorded('departures-poll'), table)];
    expect(lines.length).toBeGreaterThan(2);
    const columns = lines[0]!.split(',').length;
    expect(lines[0]).not.toContain('"');
    expect(
      lines.filter((line) => !line.includes('"')).every((line) => line.split(',').length === columns),
    ).toBe(true);
  });
});

describe('a flame graph as SVG', () => {
  it('is one file without script, whatever functions are called', () => {
    const svg = flameSvg(hostile);
    expect(svg).not.toContain('<script');
    expect(svg).toContain('&lt;script&gt;');
    expect(svg).not.toMatch(/(href|src|url\()/);
    expect(svg.startsWith('<svg xmlns="http://www.w3.org/2000/svg"')).toBe(true);
  });

  it('has a box for each call that can be seen, as wide as it took', () => {
    const svg = flameSvg(recorded('board-all-exact'));
    const width = Number(
      /<title>bendingOfPair,[^<]*<\/title><rect x="[\d.]+" y="\d+" width="([\d.]+)"/.exec(svg)![1],
    );
    expect(width).toBeGreaterThan(500);
  });
});

describe('an HTTP Archive', () => {
  it('has the requests with their times, and nothing that was never recorded', () => {
    expect(httpArchive(hostile)).toMatchObject({
      log: {
        version: '1.2',
        entries: [
          {
            startedDateTime: '2026-11-20T12:40:00.005Z',
            time: 40,
            request: {
              url: 'http://localhost:4781/api/departures',
              headers: [],
              cookies: [],
              queryString: [],
            },
            response: { status: 200, bodySize: 900 },
            timings: { send: 0, wait: 20, receive: 20 },
          },
        ],
      },
    });
  });
});
