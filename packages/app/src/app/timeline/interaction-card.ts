import { durationText, secondsText, type InteractionRow } from '@nettle-patch/core';
import type { Fact, ItemCard } from '../../workers/analysis/item-details-types';

/** What the card over the ladder tells of an interaction, worded as in the lanes. */
export function interactionCard(row: InteractionRow, budgetMs: number): ItemCard {
  const { label, startMs, feltMs, measured, outcomeMs } = row;
  const facts: Fact[] = [
    {
      label: 'felt',
      text: `${measured ? '' : 'below '}${durationText(feltMs)}, budget ${durationText(budgetMs)}`,
      over: measured && feltMs > budgetMs,
    },
    { label: 'began at', text: secondsText(startMs) },
  ];
  if (outcomeMs !== undefined)
    facts.push({ label: 'last change it set going', text: durationText(outcomeMs) });
  return { what: 'Interaction', title: label, place: '', facts };
}
