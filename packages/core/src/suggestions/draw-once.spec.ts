import { describe, expect, it } from 'vitest';
import { anatomyOf } from '../explanation/anatomy';
import { becauseText } from '../explanation/sentence';
import type { Recording } from '../recording/recording';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { asked, came, drawn, tap, recordingOfChain } from '../testing/chain-rows';
import { suggestionsFor } from './suggest';

describe('what was drawn on the way to an outcome', () => {
  const answers = (middle: object, by = 2) =>
    recordingOfChain(
      ...tap(100, 1),
      asked(105, 11, 1, { delayMs: 400 }),
      came(505, 80, 2, 11),
      ...drawn(590, by, middle),
      asked(590, 12, 2, { delayMs: 800 }),
      came(1390, 60, 3, 12),
      ...drawn(1455, 3),
    );
  const advised = (recording: Recording) => {
    const slow = findStings(recording, DEFAULT_THRESHOLDS).find(({ kind }) => kind === 'slow-outcome')!;
    return suggestionsFor(recording, anatomyOf(recording, slow)).find(({ kind }) => kind === 'draw-once');
  };

  it('is advised to be drawn once, with what the earlier drawings took', () => {
    const advice = advised(answers({}))!;
    expect(advice.savesMs).toBe(84);
    expect(becauseText(advice.evidence)).toBe(
      'list “Crew” was drawn twice; before the last, handlers and pictures took 84 ms for it.',
    );
  });

  it('counts what wrote it once, and not where it wrote the last picture too', () => {
    const slow = answers({});
    const before = [
      ...tap(100, 1),
      asked(105, 11, 1, { delayMs: 400 }),
      came(505, 80, 2, 11),
      ...drawn(590, 2),
    ];
    const after = [asked(590, 12, 2, { delayMs: 800 }), came(1390, 60, 3, 12), ...drawn(1455, 3)];
    expect(advised(recordingOfChain(...before, ...drawn(610, 2), ...after))!.savesMs).toBe(88);
    expect(advised(recordingOfChain(...before, ...drawn(1200, 2)))).toBeUndefined();
    expect(advised(slow)!.savesMs).toBe(84);
  });

  it('is not, where something else was drawn, nobody saw it, or another had it drawn', () => {
    expect(advised(answers({ target: 'status “Wait”' }))).toBeUndefined();
    expect(advised(answers({ inView: false }))).toBeUndefined();
    expect(advised(answers({}, 77))).toBeUndefined();
  });
});
