import { describe, expect, it } from 'vitest';
import { anatomyOf } from '../explanation/anatomy';
import { becauseText } from '../explanation/sentence';
import type { Row } from '../format/rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { asked, came, drawn, tap, recordingOfChain } from '../testing/chain-rows';
import { suggestionsFor } from './suggest';

const URL_OF_CRATES = 'http://localhost/api/crates';

/** A tap whose answer of so many bytes has come at 900, and is gone on with later. */
function answered(bytes: number, goesOnMs: number, ...more: Row[]) {
  const recording = recordingOfChain(
    ...tap(100, 1),
    // Sending takes a while: the browser tells of a beginning before it was noted.
    asked(105, 11, 1, { type: 'request', url: URL_OF_CRATES }),
    {
      kind: 'request',
      thread: 0,
      startMs: 102.5,
      durationMs: 797.5,
      url: URL_OF_CRATES,
      initiator: 'fetch',
      bytes,
    },
    ...more,
    came(goesOnMs, 20, 2, 11),
    ...drawn(goesOnMs + 25, 2),
  );
  const slow = findStings(recording, { ...DEFAULT_THRESHOLDS, outcomeMs: 500 }).find(
    ({ kind }) => kind === 'slow-outcome',
  )!;
  return suggestionsFor(recording, anatomyOf(recording, slow)).find(({ kind }) => kind === 'parse-elsewhere');
}

describe('a large answer', () => {
  it('that nobody goes on with for a while is taken to be parsed, and said to be', () => {
    const advice = answered(2_400_000, 1200)!;
    expect(advice.savesMs).toBe(300);
    expect(becauseText(advice.evidence)).toBe(
      'The answer of api/crates, 2.4 MB, had come 300 ms before script went on, and hardly any ran meanwhile: most likely it was parsed.',
    );
  });

  it('is not, where it is small, gone on with at once, or other script ran', () => {
    expect(answered(2_400, 1200)).toBeUndefined();
    expect(answered(2_400_000, 920)).toBeUndefined();
    expect(answered(2_400_000, 1200, came(910, 250, 9, 99))).toBeUndefined();
  });
});
