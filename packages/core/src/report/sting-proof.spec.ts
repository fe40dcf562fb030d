import { describe, expect, it } from 'vitest';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { rankStings } from '../stings/merge';
import { recorded } from '../testing/recorded';
import { recordingMarkdown } from './markdown';
import { stingMarkdown } from './sting-markdown';
import { stingPage } from './sting-page';
import { stingPicture } from './sting-picture';
import { stingProofOf } from './sting-proof';

const FAULTS = ['board-all', 'board-all-exact', 'departures-poll', 'deck-drag', 'manifest-search', 'ticker'];

const proofs = (name: string) => {
  const recording = recorded(name);
  const stings = findStings(recording, DEFAULT_THRESHOLDS);
  return stings.map((_, index) => stingProofOf(recording, index, DEFAULT_THRESHOLDS, stings));
};

describe('a report of one sting', () => {
  it('says what it was, why, by whom, how it was recorded and what is not known', () => {
    const [proof] = proofs('board-all');
    const text = stingMarkdown(proof!);
    expect(text).toMatch(/^### Tap button “Board all”: [\d.]+ m?s, budget 200 ms\n/);
    expect(text).toContain(proof!.because.slice(0, 40));
    expect(text).toContain('| function | where |');
    expect(text).toContain('Not told by this browser or mode: every call.');
    expect(text).toMatch(/Of [\d,]+ ms of script, \d+ % is told by samples/);
  });

  it('accounts for the whole delay in each', () => {
    for (const name of FAULTS) {
      for (const { kinds, anatomy } of proofs(name)) {
        const sum = kinds.reduce((all, kind) => all + kind.share, 0);
        expect(Math.abs(sum - 1) * anatomy.blame.totalMs, name).toBeLessThan(1);
      }
    }
  });

  it('lets nothing of the app be taken for markup', () => {
    const [proof] = proofs('board-all');
    const hostile = {
      ...proof!,
      title: '<script>alert(1)</script> | **x**',
      because: '</svg><img src=x>',
      culprits: [{ ...proof!.culprits[0]!, name: '<b>|x' }],
      excerpts: [
        {
          functionId: 0,
          name: 'trimOfPair',
          chargedMs: 10,
          file: 'src/desk.ts',
          knowsLines: true,
          lines: [{ line: 1, text: '````</pre><script>', chargedMs: 5 }],
        },
      ],
    };
    const page = stingPage(hostile);
    expect(page).not.toMatch(/<script>|<img|<b>/);
    expect(stingPicture(hostile)).not.toMatch(/<script>|<img/);
    const markdown = stingMarkdown(hostile);
    expect(markdown).toContain('`````text');
    expect(markdown).toContain('\\<b\\>\\|x');
  });

  it('draws no budget where the cost is a part of each second', () => {
    const all = FAULTS.flatMap(proofs);
    const rates = all.filter(({ anatomy }) => anatomy.sting.isRate);
    expect(rates.length).toBeGreaterThan(0);
    for (const proof of rates) {
      expect(proof.title).toMatch(/ ms\/s, budget [\d,]+ ms\/s$/);
      expect(stingPicture(proof)).not.toContain('>budget');
    }
  });
});

describe('costs that go on', () => {
  it('come after every delay', () => {
    for (const name of FAULTS) {
      const stings = rankStings(findStings(recorded(name), DEFAULT_THRESHOLDS).toReversed());
      const firstRate = stings.findIndex(({ isRate }) => isRate);
      if (firstRate >= 0) expect(stings.slice(firstRate).every(({ isRate }) => isRate)).toBe(true);
    }
  });

  it('are told as parts of each second', () => {
    const recording = FAULTS.map(recorded).find((one) =>
      findStings(one, DEFAULT_THRESHOLDS)
        .slice(0, 5)
        .some(({ isRate }) => isRate),
    );
    expect(recordingMarkdown(recording!, DEFAULT_THRESHOLDS)).toMatch(/ \| \d+ ms\/s \| \d+ ms\/s \| /);
  });
});
