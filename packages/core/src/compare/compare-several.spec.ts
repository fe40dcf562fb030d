import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { severalMarkdown, severalPage, severalReport } from '../report/several-report';
import { tapped } from '../testing/tapped';
import { seededRandom } from '../statistics/random';
import { compareSeveral } from './compare-several';
import { standingsOf } from './standings';

const QUICK = [104, 104, 112, 104, 96, 104];
const SLOW = [416, 424, 416, 408, 432, 416];
const MIDDLE = [240, 232, 248, 240, 240, 232];

describe('several recordings', () => {
  it('stand beside each other, the quickest and the slowest marked where the test allows it', () => {
    const [series] = compareSeveral([tapped(...MIDDLE), tapped(...QUICK), tapped(...SLOW)]).series;
    expect(series!.sides.map(({ medianMs }) => medianMs)).toEqual([240, 104, 416]);
    expect(series!.standings).toEqual([undefined, 'best', 'worst']);
  });

  it('are not marked where there are too few values, or where they are the same', () => {
    const few = compareSeveral([tapped(104, 104, 104), tapped(416, 416, 416), tapped(240)]);
    expect(few.tested).toBe(0);
    expect(few.series[0]!.standings).toEqual([undefined, undefined, undefined]);
    const same = compareSeveral([tapped(...QUICK), tapped(...QUICK), tapped(...QUICK)]);
    expect(same.tested).toBe(3);
    expect(same.series[0]!.standings).toEqual([undefined, undefined, undefined]);
  });

  it('leave a cell empty where something was not done', () => {
    const [series] = compareSeveral([tapped(...QUICK), tapped(), tapped(...SLOW)]).series;
    expect(series!.sides[1]).toMatchObject({ count: 0, medianMs: undefined });
    expect(series!.standings).toEqual(['best', undefined, 'worst']);
  });

  it('are seldom told apart where all were drawn from the same: the error rate holds over all pairs', () => {
    let told = 0;
    const rounds = 120;
    const random = seededRandom(7);
    for (let round = 0; round < rounds; round++) {
      const all = Array.from({ length: 4 }, () =>
        tapped(...QUICK.map((ms) => ms + Math.round(400 * random() ** 3))),
      );
      if (compareSeveral(all).series[0]!.standings.some((standing) => standing !== undefined)) told++;
    }
    expect(told).toBeLessThanOrEqual(15);
  });

  it('are told as JSON, as Markdown and as a page that needs nothing else', () => {
    const all = [tapped(...MIDDLE), tapped(...QUICK), tapped(...SLOW)];
    const comparison = compareSeveral(all);
    expect(severalReport(all, comparison)).toMatchObject({
      series: [{ recordings: [{ standing: null }, { standing: 'best' }, { standing: 'worst', count: 6 }] }],
    });
    expect(severalMarkdown(all, comparison)).toContain(
      '| Tap button “Board all” | 240 ms, 232 to 248, × 6 | 104 ms, 96 to 112, × 6 \\(quickest\\) | 416 ms',
    );
    const page = severalPage(all, comparison);
    expect(page).toContain('<td class="w">416 ms, 408 to 432, × 6 (slowest)</td>');
    expect(page).not.toMatch(/(?:src|href)=/);
  });
});

describe('how each of several stands', () => {
  it('is never best and beaten, nor worst and quicker than any', () => {
    const aPair = fc
      .tuple(fc.nat(4), fc.nat(4))
      .filter(([a, b]) => a !== b)
      .map(([quicker, slower]) => ({ quicker, slower }));
    fc.assert(
      fc.property(fc.array(aPair), (pairs) => {
        for (const [at, standing] of standingsOf(5, pairs).entries()) {
          if (standing === 'best') expect(pairs.some(({ slower }) => slower === at)).toBe(false);
          if (standing === 'worst') expect(pairs.some(({ quicker }) => quicker === at)).toBe(false);
          if (standing !== undefined)
            expect(pairs.some(({ quicker, slower }) => quicker === at || slower === at)).toBe(true);
        }
      }),
    );
  });
});
