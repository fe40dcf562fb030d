import { durationText, feltAndBudgetText, percentText, secondsText } from '@nettle-patch/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { partWords } from '../shared/words';
import { busyParts } from './strip-rows';

/** Less of a step is not worth a line. */
const MIN_SHARE = 0.005;

type CardContent = Pick<OpenedRecording, 'skyline' | 'stings'>;

/**
 * What the card over the ground strip tells of a moment: a sting and its budget, else what the main thread did around it.
 * @param sting index of the sting whose mark is there
 */
export function stripCard({ skyline, stings }: CardContent, ms: number, sting: number | undefined): ItemCard {
  const one = sting === undefined ? undefined : stings[sting];
  if (one !== undefined) {
    return {
      what: `Sting at ${secondsText(one.startMs)}`,
      title: one.label,
      place: '',
      facts: [{ label: 'took', text: feltAndBudgetText(one), over: one.feltMs > one.budgetMs }],
    };
  }
  const step = Math.min(skyline.steps - 1, Math.floor(ms / skyline.stepMs));
  const shares = busyParts(skyline, step, step + 1)
    .map(({ part, ms: busyMs }) => ({ part, share: busyMs / skyline.stepMs }))
    .filter(({ share }) => share >= MIN_SHARE);
  const busy = shares.reduce((sum, { share }) => sum + share, 0);
  return {
    what: `Main thread, ${durationText(skyline.stepMs)} from ${secondsText(step * skyline.stepMs)}`,
    title: shares.length === 0 ? 'idle' : `${percentText(Math.min(1, busy))} busy`,
    place: '',
    facts: shares.map(({ part, share }) => ({ label: partWords(part), text: percentText(share) })),
  };
}
