import { isSlowOutcome } from '../detectors/slow-outcome';
import { ms, text } from '../explanation/sentence';
import { requestName } from '../outcomes/steps';
import type { Adviser } from './suggestion';
import { first, last } from '../lists/items';

/** A request that takes less is hardly worth it. */
const WORTH_MS = 50;

/** Requests that were sent one after the other, where the later ones may not have needed the earlier. */
export const askTogether: Adviser = (_recording, { sting }) => {
  if (!isSlowOutcome(sting.detail) || sting.detail.isPage) return [];
  const requests = sting.detail.steps.filter(
    ({ name, startMs, endMs }) => name === 'request' && endMs - startMs >= WORTH_MS,
  );
  if (requests.length < 2) return [];
  const lengths = requests.map(({ startMs, endMs }) => endMs - startMs);
  const sum = lengths.reduce((total, one) => total + one, 0);
  const words = requests.flatMap((step, at) => [
    text(`${at === 0 ? '' : ', then '}${requestName(step)} for `),
    ms(lengths[at]!),
  ]);
  return [
    {
      kind: 'ask-together',
      advice: [text('If one does not need the answer of the other, send these requests together.')],
      evidence: [...words, text(', each sent after the answer to the one before.')],
      functionId: undefined,
      range: { startMs: first(requests).startMs, endMs: last(requests).endMs },
      savesMs: sum - Math.max(...lengths),
    },
  ];
};
