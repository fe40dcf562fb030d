import { BREAKDOWN_PARTS, durationText, percentText, secondsText } from '@nettle-patch/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { partWords } from '../shared/words';

type CardContent = Pick<OpenedRecording, 'skyline' | 'stings'>;

/**
 * What the card over the ground strip tells of a moment: a sting and its budget, else what the main thread did around it.
 * @param sting index of the sting whose mark is there
 */
export function stripCard({ skyline, stings }: CardContent, ms: number, sting: number | undefined): ItemCard {
  const one = sting === undefined ? undefined : stings[sting];
  if (one !== undefined) {
    const delay = `${durationText(one.feltMs)}, budget ${durationText(one.budgetMs)}`;
    return {
      what: `Sting at ${secondsText(one.startMs)}`,
      title: one.label,
      place: '',
      facts: [{ label: 'took', text: delay, over: one.feltMs > one.budgetMs }],
    };
  }
  const step = Math.min(skyline.steps - 1, Math.floor(ms / skyline.stepMs));
  const shares = BREAKDOWN_PARTS.flatMap((part) => {
    if (part === 'idleMs') return [];
    const share = (skyline.parts[part][step] ?? 0) / skyline.stepMs;
    return share >= 0.005 ? [{ part, share }] : [];
  });
  const busy = shares.reduce((sum, { share }) => sum + share, 0);
  return {
    what: `Main thread, ${durationText(skyline.stepMs)} from ${secondsText(step * skyline.stepMs)}`,
    title: shares.length === 0 ? 'idle' : `${percentText(Math.min(1, busy))} busy`,
    place: '',
    facts: shares.map(({ part, share }) => ({
      label: partWords(part),
      text: percentText(share),
      over: false,
    })),
  };
}
