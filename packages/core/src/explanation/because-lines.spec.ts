import { expect, it } from 'vitest';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { becauseOf } from '../detectors/because';
import { findStings } from '../detectors/index';
import { suggestionsFor } from '../suggestions/suggest';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { anatomyOf } from './anatomy';
import { becauseText } from './sentence';

/** onLoad at line 38 calls manifestText on its line 39, and two libraries on its line 40. */
const CODE: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/src/load.js' },
  { kind: 'source', id: 1, url: 'http://localhost:4781/node_modules/@skerry/checks/checks.js' },
  { kind: 'source', id: 2, url: 'http://localhost:4781/node_modules/weft/weft.js' },
  { kind: 'function', id: 0, name: 'onLoad', source: 0, line: 38, column: 1 },
  { kind: 'function', id: 1, name: 'manifestText', source: 0, line: 17, column: 1 },
  { kind: 'function', id: 2, name: 'parse', source: 1, line: 5, column: 1 },
  { kind: 'function', id: 3, name: 'render', source: 2, line: 9, column: 1 },
  { kind: 'stack', id: 0, function: 0, line: 39, column: 5 },
  { kind: 'stack', id: 1, function: 1, parent: 0, line: 20, column: 5 },
  { kind: 'stack', id: 2, function: 0, line: 40, column: 5 },
  { kind: 'stack', id: 3, function: 2, parent: 2, line: 6, column: 5 },
  { kind: 'stack', id: 4, function: 3, parent: 2, line: 9, column: 5 },
  { kind: 'stack', id: 5, function: 3, parent: 1, line: 9, column: 5 },
];

/** A tap that was handled in a second, of which each stack has some milliseconds. */
function handled(...parts: (readonly [stack: number, ms: number])[]) {
  const stacks = parts.flatMap(([stack, ms]) => Array.from({ length: ms }, () => stack));
  const rows: Row[] = [
    {
      kind: 'input',
      thread: 0,
      startMs: 1000,
      durationMs: 1000,
      type: 'click',
      interaction: 1,
      target: 'button “Load”',
      processingStartMs: 1000,
      processingEndMs: 2000,
    },
    {
      kind: 'handler',
      thread: 0,
      startMs: 1000,
      durationMs: 1000,
      type: 'event-listener',
      invoker: 'BUTTON',
      function: 0,
    },
    {
      kind: 'samples',
      ...packSamples(0, 1, { timesUs: stacks.map((_stack, at) => 1_000_500 + at * 1000), stacks }),
    },
  ];
  const recording = recordingOf([...CODE, ...rows], deskHeader({ fine: true, isolated: true }));
  const [sting] = findStings(recording, DEFAULT_THRESHOLDS);
  return { recording, sting: sting!, anatomy: anatomyOf(recording, sting!) };
}

const said = (...parts: Parameters<typeof handled>) => {
  const { recording, anatomy } = handled(...parts);
  return becauseText(becauseOf(recording, anatomy));
};

it('names the library that a handler called, with its line, where that is less than half of it', () => {
  expect(said([1, 400], [3, 450], [0, 150])).toContain(
    'onLoad ran for 1,000 ms, by samples about 45 % of it in @skerry/checks, which it called, 45 % of it on line 40.',
  );
});

it('says what share of what a handler called was in a library, where others were in it', () => {
  expect(said([1, 200], [3, 500], [4, 300])).toContain(
    'onLoad ran for 1,000 ms, by samples about 80 % of it in what it called, 63 % of that in @skerry/checks, 80 % of it on line 40.',
  );
});

it('counts no library that was called by somebody else', () => {
  expect(said([1, 50], [5, 380], [3, 450], [0, 120])).toContain(
    'about 45 % of it in @skerry/checks, which it called',
  );
});

it('advises to give way where what a line calls in libraries takes the time', () => {
  const { recording, anatomy } = handled([1, 100], [3, 900]);
  const [advice] = suggestionsFor(recording, anatomy).filter(({ kind }) => kind === 'give-way');
  expect(becauseText(advice!.evidence)).toBe(
    'onLoad ran for 1,000 ms without a break, 900 ms of it in its code and what that called, 100 % of that on line 40.',
  );
});
