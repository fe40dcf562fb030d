import { describe, expect, it } from 'vitest';
import { seededRandom } from '../statistics/random';
import { SimulatedBench, type SimulatedAlternative } from '../testing/simulated-bench';
import type { Trial } from '../trials/trial';
import { runTrial } from '../trials/trial-run';
import { pairWords, runText } from '../trials/trial-words';
import { trialPage } from './trial-page';
import { trialPicture } from './trial-picture';
import {
  trialCases,
  trialMarkdown,
  trialReport,
  trialRows,
  trialSentences,
  type TrialRun,
} from './trial-report';

const TRIAL: Trial = {
  name: 'Fares <b>three</b> ways',
  place: 'page',
  setUp: 'const fares = [3, 4];',
  alternatives: [
    { name: 'as it is', code: 'return `${fares[0]}`;' },
    { name: 'another|way', code: '```\nreturn 1;' },
    { name: 'third', code: 'return 1;' },
  ],
};

async function runOf(alternatives: readonly SimulatedAlternative[]): Promise<TrialRun> {
  const random = seededRandom(9);
  let clock = 0;
  const bench = new SimulatedBench(alternatives, { random, ofPlace: 0.02 });
  const result = await runTrial(TRIAL, bench, { maxMs: 60_000, now: () => (clock += 500), random });
  return { where: 'chromium', result };
}

const good = () => runOf([{ runMs: 0.1 }, { runMs: 0.06 }, { runMs: 0.1, bytes: 2048 }]);
const bad = () =>
  runOf([
    { runMs: 0.1, text: '"7"' },
    { runMs: 0.1, text: '1' },
    { runMs: 1, problem: { kind: 'threw', message: 'ReferenceError: quay is not defined', line: 3 } },
  ]);

describe('what is said of a trial', () => {
  it('says of each pair how much, how surely, and whether the results agree', async () => {
    const sentences = trialSentences(TRIAL, (await good()).result);
    expect(sentences[0]).toBe('All give the same result.');
    expect(sentences[1]).toMatch(
      /^“another\|way” takes (39|40|41) % less time than “as it is” \(95 % between \d+ % less and \d+ % less\)\.$/,
    );
    expect(sentences[2]).toMatch(/^“third” and “as it is” show no clear difference \(95 % between /);
  });

  it('says where what went wrong, and which results differ', async () => {
    const sentences = trialSentences(TRIAL, (await bad()).result);
    expect(sentences.slice(0, 2)).toEqual([
      '“third”, line 1: ReferenceError: quay is not defined',
      'The results differ: “as it is” gives "7", “another|way” gives 1.',
    ]);
  });

  it('says what cannot be compared, what changes, and what never ended', async () => {
    const of = async (first: SimulatedAlternative) =>
      trialSentences(TRIAL, (await runOf([first, { runMs: 1 }, { runMs: 1 }])).result)[0];
    expect(await of({ runMs: 1, isComparable: false })).toMatch(/^Whether the results agree cannot be said/);
    expect(await of({ runMs: 1, isSteady: false })).toMatch(
      /^“as it is” gives another result when it is called again/,
    );
    expect(await of({ runMs: 1, problem: { kind: 'endless', message: '' } })).toBe(
      '“as it is” did not end within 10 s, and was stopped.',
    );
    expect(
      trialSentences(TRIAL, (await runOf([{ runMs: 2e-6 }, { runMs: 1 }, { runMs: 1 }])).result).at(-1),
    ).toMatch(/mostly the loop around it/);
  });

  it('words ratios as they are read', () => {
    const words = (share: number) =>
      pairWords(['a', 'b'], {
        first: 0,
        second: 1,
        more: { share, low: share, high: share },
        chance: 0.001,
        verdict: share < 0 ? 'faster' : 'slower',
      });
    expect(words(-0.3)).toBe('“b” takes 30 % less time than “a” (95 % between 30 % less and 30 % less).');
    expect(words(1.4)).toBe('“b” takes 2.4 × the time of “a” (95 % between 2.4 × and 2.4 ×).');
    expect(words(-0.96)).toBe('“b” takes 4 % of the time of “a” (95 % between 4 % of it and 4 % of it).');
    expect([1.5, 0.25, 0.00084, 4.4e-6].map(runText)).toEqual(['1.50 ms', '250 µs', '840 ns', '4.40 ns']);
  });
});

describe('reports of a trial', () => {
  it('are a picture and a page that refer to nothing outside and run nothing', async () => {
    const run = await good();
    for (const text of [trialPicture(TRIAL, [run]), trialPage(TRIAL, [run])]) {
      expect(text).not.toMatch(/<script|<b>|(?:href|src)=/);
      expect(text).toContain('Fares &lt;b&gt;three');
      expect(text).toContain('fresh start');
    }
    expect(trialPicture(TRIAL, [run]).match(/<circle/g)).toHaveLength(3 * run.result.starts);
  });

  it('are Markdown in which no name is taken for more than it is, with the code', async () => {
    const text = trialMarkdown(TRIAL, [await good()]);
    expect(text).toContain('### Fares \\<b\\>three');
    expect(text).toContain('another\\|way');
    expect(text).toContain('````js\n```\nreturn 1;\n````');
  });

  it('are JSON with what each start took', async () => {
    const run = await good();
    const report = JSON.parse(JSON.stringify(trialReport(TRIAL, [run]))) as {
      version: number;
      runs: { alternatives: { startsMs: number[] }[]; pairs: unknown[] }[];
    };
    expect(report.version).toBe(1);
    expect(report.runs[0]!.alternatives[0]!.startsMs).toHaveLength(run.result.starts);
    expect(report.runs[0]!.pairs).toHaveLength(3);
    expect(trialRows(run.result)[3]).toEqual(['third', expect.any(String), expect.any(String), 'about 2 kB']);
  });

  it('are tests that fail where an alternative does, or results differ', async () => {
    const outcomes = (run: TrialRun) => trialCases(TRIAL, [run]).map(({ outcome }) => outcome);
    expect(outcomes(await good())).toEqual(['passed', 'passed', 'passed', 'passed']);
    expect(outcomes(await bad())).toEqual(['passed', 'passed', 'failed', 'failed']);
  });
});
