import { countText } from '../words/figures';
import { functionPart, ms, percent, text } from '../explanation/sentence';
import { isOwnFunction } from '../recording/functions';
import type { Adviser } from './suggestion';

const MIN_CALLS = 1000;
const MIN_SHARE = 0.3;

/** An own function called so often in one delay that its calls together are much of it. */
export const keepResults: Adviser = (recording, { culprits, sting, blame }) =>
  culprits
    .filter(
      ({ functionId, count: calls, totalMs }) =>
        calls >= MIN_CALLS && totalMs >= MIN_SHARE * blame.totalMs && isOwnFunction(recording, functionId),
    )
    .slice(0, 1)
    .map(({ functionId, count: calls, totalMs }) => ({
      kind: 'keep-results',
      advice: [
        text('Call '),
        functionPart(recording, functionId),
        text(' less often: keep what it gave, or prepare it once before.'),
      ],
      evidence: [
        text(`${countText(calls)} calls, `),
        ms(totalMs),
        text(` together, ${percent(totalMs / blame.totalMs)} of the delay.`),
      ],
      functionId,
      range: sting,
      savesMs: totalMs,
    }));
