import type { Anatomy, Phase } from '../explanation/anatomy';
import { firstOwn } from '../explanation/culprits';
import { functionPart, isTold, ms, text, timesBudget, type BecausePart } from '../explanation/sentence';
import type { Thresholds } from '../format/thresholds';
import { actionDeed } from '../inputs/action';
import { outcomesOf } from '../outcomes/outcome';
import { requestName, type OutcomeStep } from '../outcomes/steps';
import type { Recording } from '../recording/recording';
import type { StingDetail } from '../stings/sting';
import type { Detector, Found } from './detector';

export interface SlowOutcomeDetail extends StingDetail {
  readonly type: 'slow-outcome';
  /** Label of what changed last, or path of the page it led to. */
  readonly target: string | undefined;
  readonly isPage: boolean;
  /** From the input to the outcome; they follow each other. */
  readonly steps: readonly OutcomeStep[];
}

export function isSlowOutcome(detail: StingDetail | undefined): detail is SlowOutcomeDetail {
  return detail?.type === 'slow-outcome';
}

/** Inputs of which the last change on the screen that they set going came later than the budget allows. */
function find(recording: Recording, { outcomeMs }: Thresholds): Found<SlowOutcomeDetail>[] {
  return outcomesOf(recording)
    .filter(({ lengthMs }) => lengthMs > outcomeMs)
    .map(({ interaction, startMs, endMs, lengthMs, target, steps, page }) => ({
      thread: interaction.thread,
      label: interaction.label,
      startMs,
      endMs,
      feltMs: lengthMs,
      budgetMs: outcomeMs,
      interaction,
      detail: { type: 'slow-outcome', target, isPage: page !== undefined, steps },
    }));
}

/** Parts from this share of the whole on are said, the longest first. */
const WORTH_SHARE = 0.05;
const MAX_PARTS = 4;

interface Part {
  lengthMs: number;
  readonly words: readonly BecausePart[];
}

/** What a step was spent on, and by what others of the same kind are known. */
function wordsFor(
  recording: Recording,
  phase: Phase,
  step: SlowOutcomeDetail['steps'][number],
): [string, BecausePart[]] {
  switch (step.name) {
    case 'request':
      return [`request ${step.url}`, [text(` for ${requestName(step)}`)]];
    case 'timer':
      return [
        `timer ${step.delayMs}`,
        [
          text(
            step.delayMs === undefined ? ' for a timer' : ` for a timer of ${Math.round(step.delayMs)} ms`,
          ),
        ],
      ];
    case 'waiting':
      return ['waiting', [text(' waiting for the main thread')]];
    case 'loading':
      return ['loading', [text(' until the new page showed something')]];
    case 'worker': {
      const named = step.functionId === undefined ? undefined : functionPart(recording, step.functionId);
      return named !== undefined && isTold(named)
        ? [`worker ${step.functionId}`, [text(' for '), named, text(', in a worker')]]
        : ['worker', [text(' for a worker')]];
    }
    case 'drawing':
      return ['drawing', [text(' drawing')]];
    case 'handling': {
      const worst = firstOwn(recording, phase.culprits)?.functionId ?? step.functionId;
      const named = worst === undefined ? undefined : functionPart(recording, worst);
      return named !== undefined && isTold(named)
        ? [`in ${worst}`, [text(' in '), named]]
        : ['handling', [text(' handling')]];
    }
  }
}

/** "The last change on the screen, in “Crew list”, came 2,310 ms after the tap on button “Roster”, …: 1,512 ms for api/roster, 600 ms in mergeOrders." */
function because(recording: Recording, { sting, phases }: Anatomy, detail: SlowOutcomeDetail): BecausePart[] {
  const deed = actionDeed(sting.interaction!.action, sting.interaction!.target);
  const what = detail.isPage
    ? `The page ${detail.target} showed something `
    : `The last change on the screen${detail.target === undefined ? '' : `, in ${detail.target},`} came `;
  const parts = new Map<string, Part>();
  for (const [at, step] of detail.steps.entries()) {
    const [key, words] = wordsFor(recording, phases[at]!, step);
    const part = parts.get(key) ?? { lengthMs: 0, words };
    part.lengthMs += step.endMs - step.startMs;
    parts.set(key, part);
  }
  const longest = [...parts.values()]
    .filter(({ lengthMs }) => lengthMs >= sting.feltMs * WORTH_SHARE)
    .sort((a, b) => b.lengthMs - a.lengthMs)
    .slice(0, MAX_PARTS);
  const list = longest.flatMap(({ lengthMs, words }, at) => [
    text(at === 0 ? ': ' : ', '),
    ms(lengthMs),
    ...words,
  ]);
  return [
    text(what),
    ms(sting.feltMs, true),
    text(` after ${deed}, ${timesBudget(sting.feltMs, sting.budgetMs)}`),
    ...list,
    text('.'),
  ];
}

export const slowOutcome: Detector<'slow-outcome', SlowOutcomeDetail> = {
  kind: 'slow-outcome',
  detail: 'slow-outcome',
  label: 'slow outcome',
  about: 'The last change on the screen that an input set going came later than `outcomeMs`',
  extent: 'course',
  isRate: false,
  find,
  because,
};
