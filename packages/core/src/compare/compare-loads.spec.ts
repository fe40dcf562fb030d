import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { versusPage } from '../report/versus-page';
import { versusPicture } from '../report/versus-picture';
import { versusMarkdown, versusReport, slowerIn, type Versus } from '../report/versus-report';
import { recordingOf } from '../testing/arbitrary-recording';
import { TAPPED, tapped } from '../testing/tapped';
import { compareLoads } from './compare-loads';
import { isOpen } from './looks';

const compared = (before: number[][], after: number[][]) =>
  compareLoads(
    before.map((delays) => tapped(...delays)),
    after.map((delays) => tapped(...delays)),
    DEFAULT_THRESHOLDS,
  );
const SLOW = [[400], [408], [416], [424], [432]];
/** A long task for which nobody waits, of which nothing more is known. */
const BACKGROUND: Row[] = [{ kind: 'task', thread: 0, startMs: 3000, durationMs: 120, source: 'longtask' }];
const QUICK = [[96], [104], [112], [120], [88]];

describe('loads of two versions', () => {
  it('count once each, by the middle of what was done in them', () => {
    const [series] = compared([[400, 480, 800], [408]], [[96, 104], [112]]).series;
    expect(series).toMatchObject({ label: TAPPED, verdict: 'too-few-to-say' });
    expect(series!.before).toMatchObject({ count: 2, medianMs: (480 + 408) / 2 });
    expect(series!.after).toMatchObject({ count: 2, medianMs: (100 + 112) / 2 });
  });

  it('are told apart where all of one are slower, however often each was tapped', () => {
    const many = SLOW.map(([ms]) => [ms!, ms!, ms!]);
    for (const before of [SLOW, many]) {
      const { series, tested, loads } = compared(before, QUICK);
      expect(series[0]).toMatchObject({ verdict: 'faster' });
      expect([tested, loads]).toEqual([1, { before: 5, after: 5 }]);
    }
    expect(compared(QUICK, SLOW).series[0]).toMatchObject({ verdict: 'slower' });
  });

  it('are not told apart by one load that has many taps', () => {
    const { series } = compared([[400, 400, 400, 400, 400, 400]], [[96, 96, 96, 96, 96, 96]]);
    expect(series[0]).toMatchObject({ verdict: 'too-few-to-say', chance: undefined });
  });

  it('of which some on one side held what none of the other did are told apart only where chance could not', () => {
    const compare = (withIt: number) => {
      const side = (some: number) =>
        Array.from({ length: 6 }, (_, at) =>
          recordingOf([
            {
              kind: 'input',
              thread: 0,
              startMs: 1000,
              durationMs: 96,
              type: 'click',
              interaction: 1,
              target: 'button “Board all”',
            },
            ...(at < some ? BACKGROUND : []),
            { kind: 'end', startMs: 5000, reason: 'stopped' },
          ]),
        );
      return compareLoads(side(0), side(withIt), DEFAULT_THRESHOLDS).series.find(
        ({ isInteraction }) => !isInteraction,
      )!;
    };
    expect(compare(3)).toMatchObject({ verdict: 'too-few-to-say' });
    expect(compare(6)).toMatchObject({ verdict: 'new' });
  });

  it('have one on each side that is nearest to what was usual', () => {
    const { typical } = compared([[400], [960], [416], [412], [88]], QUICK);
    expect(typical).toEqual({ before: 3, after: 1 });
  });

  it('leave something to decide only where a difference that matters has no verdict yet', () => {
    expect(isOpen(compared(SLOW.slice(0, 3), QUICK.slice(0, 3)).series)).toBe(true);
    expect(isOpen(compared(SLOW, QUICK).series)).toBe(false);
    expect(isOpen(compared(SLOW, SLOW).series)).toBe(false);
  });
});

describe('series that are tested together', () => {
  it('that lie as far apart as they can and still have no verdict are too few, and it is said how many more decide', () => {
    const both = (ms: number) =>
      recordingOf(
        ['Board all', 'Undo boarding'].map((name, at): Row => ({
          kind: 'input',
          thread: 0,
          startMs: 1000 * (at + 1),
          durationMs: ms,
          type: 'click',
          interaction: at + 1,
          target: `button “${name}”`,
        })),
      );
    const loads = (...all: number[]) => all.map(both);
    const compare = (was: Recording[], is: Recording[]) => compareLoads(was, is, DEFAULT_THRESHOLDS).series;
    const four = compare(loads(96, 104, 88, 112), loads(400, 408, 416, 400));
    expect(four).toMatchObject([
      { verdict: 'too-few-to-say', missing: { before: 1, after: 1 } },
      { verdict: 'too-few-to-say', missing: { before: 1, after: 1 } },
    ]);
    const five = compare(loads(96, 104, 88, 112, 96), loads(400, 408, 416, 400, 408));
    expect(five).toMatchObject([{ verdict: 'slower' }, { verdict: 'slower' }]);
  });
});

describe('what a versus run came to', () => {
  const versus = (before: number[][], after: number[][]): Versus => ({
    before: 'http://localhost:4790/',
    after: 'http://localhost:4790/?mended=<all>',
    runs: [
      {
        browser: 'chromium',
        typical: { before: tapped(...before[0]!), after: tapped(...after[0]!) },
        comparison: compared(before, after),
        planned: 8,
        done: before.length,
        inTurn: true,
      },
    ],
    caveats: [],
  });

  it('names what became slower, and nothing where nothing did', () => {
    expect(slowerIn(versus(QUICK, SLOW)).map(({ browser, series }) => [browser, series.label])).toEqual([
      ['chromium', TAPPED],
    ]);
    expect(slowerIn(versus(SLOW, QUICK))).toEqual([]);
  });

  it('is told as JSON and as Markdown, with how it was made', () => {
    expect(versusReport(versus(SLOW, QUICK))).toMatchObject({
      a: 'http://localhost:4790/',
      browsers: [
        {
          rounds: { planned: 8, done: 5, endedEarly: true },
          series: [{ label: TAPPED, verdict: 'faster', before: { count: 5 } }],
        },
      ],
    });
    const markdown = versusMarkdown(versus(SLOW, QUICK));
    expect(markdown).toContain('| Tap button “Board all” | 416 ms, 5 loads | 104 ms, 5 loads | faster |');
    expect(markdown).toContain('ended before 8 as nothing was left to decide');
    expect(markdown).not.toContain('<all>');
  });

  it('is told as a page and as a picture that need nothing else, with what is not known', () => {
    const given = versus(SLOW, QUICK);
    const page = versusPage(given, DEFAULT_THRESHOLDS);
    expect(page).toContain('B: http://localhost:4790/?mended=&lt;all&gt;');
    expect(page).toContain('other devices, networks and people may find other figures');
    expect(page).toContain('With no change, a difference as large would come');
    expect(page).toContain('<svg');
    expect(page).not.toMatch(/(?:src|href)=/);
    const picture = versusPicture(given, DEFAULT_THRESHOLDS);
    expect(picture.match(/<circle/g)).toHaveLength(10);
    expect(picture).toContain('B: http://localhost:4790/?mended=&lt;all&gt;');
  });

  it('says that loads were not made in turn where they were not', () => {
    const given = versus(SLOW, QUICK);
    const byChange = {
      ...given,
      runs: given.runs.map((run) => ({ ...run, inTurn: false })),
      caveats: ['All loads of A were made before those of B.'],
    };
    expect(versusMarkdown(byChange)).toContain('> All loads of A were made before those of B.');
    expect(versusMarkdown(byChange)).not.toContain('in random order');
    expect(versusPage(byChange, DEFAULT_THRESHOLDS)).toContain('All loads of A were made before those of B.');
  });

  it('speaks of A and B where more loads are wanted', () => {
    const few = versusPage(versus(SLOW.slice(0, 3), QUICK.slice(0, 3)), DEFAULT_THRESHOLDS);
    expect(few).toContain('1 more of A and 1 more of B would be enough to tell');
  });
});
