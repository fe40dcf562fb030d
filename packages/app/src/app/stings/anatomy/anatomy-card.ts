import {
  OWNER_WORDS,
  PHASES,
  budgetText,
  feltAndBudgetText,
  msText,
  percentText,
  shortPlace,
} from '@nettle-patch/core';
import type { OpenedSting } from '../../../workers/analysis/analysis-results';
import type { Fact, ItemCard } from '../../../workers/analysis/item-details-types';
import { RESTS, type Shape } from './anatomy-layout';

const WHAT: Partial<Record<Shape['kind'], string>> = {
  blocker: 'In the way of the input',
  queued: 'Had to wait meanwhile',
  stem: 'Library, called by own code',
  thorn: 'Forced layout',
  unseen: 'No stack',
};
const PHASE_NAMES = new Set<string>(PHASES);

/** What the card tells of a shape of the drawing. */
export function anatomyCard(
  shape: Shape,
  { anatomy: { sting }, functions }: Pick<OpenedSting, 'anatomy' | 'functions'>,
): ItemCard {
  const named = shape.functionId === undefined ? undefined : functions.get(shape.functionId);
  const lengthMs = shape.range.endMs - shape.range.startMs;
  const facts: Fact[] = [{ label: 'length', text: msText(lengthMs) }];
  const isPart = !PHASE_NAMES.has(shape.kind) && !sting.isRate;
  if (!sting.isRate && lengthMs > 0) {
    const share = `${percentText(lengthMs / sting.budgetMs)} of ${budgetText(sting)}`;
    facts.push({ label: 'of the budget', text: share, over: isPart && lengthMs > sting.budgetMs });
  }
  if (shape.owner !== undefined) facts.push({ label: 'code', text: OWNER_WORDS[shape.owner] });
  if (shape.certainty !== undefined) facts.push({ label: 'known by', text: CERTAIN[shape.certainty] });
  if (PHASE_NAMES.has(shape.kind)) facts.push({ label: 'of the delay', text: feltAndBudgetText(sting) });
  return {
    what: WHAT[shape.kind] ?? (named === undefined ? whatOf(shape) : 'Call'),
    title: named?.name ?? titleOf(shape),
    place: named === undefined ? '' : shortPlace(named.place),
    facts,
  };
}

const CERTAIN = {
  measured: 'its time was taken',
  sampled: 'samples',
  inferred: 'not sampled here, inferred',
} as const;

function whatOf({ kind }: Shape): string {
  return kind in RESTS && !PHASE_NAMES.has(kind) ? 'Main thread' : 'Phase';
}

function titleOf({ kind, words }: Shape): string {
  if (PHASE_NAMES.has(kind)) return kind;
  if (kind === 'unseen') return 'what ran here is inferred';
  return kind in RESTS ? RESTS[kind as keyof typeof RESTS] : words;
}
