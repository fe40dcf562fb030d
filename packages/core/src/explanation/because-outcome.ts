import { actionDeed } from '../inputs/action';
import type { Recording } from '../recording/recording';
import { requestName } from '../outcomes/steps';
import type { StingDetail } from '../stings/sting';
import type { Anatomy, Phase } from './anatomy';
import { firstOwn } from './culprits';
import { functionPart, isTold, ms, text, timesBudget, type BecausePart } from './sentence';

type Detail = Extract<StingDetail, { type: 'slow-outcome' }>;

/** Parts from this share of the whole on are said, the longest first. */
const WORTH_SHARE = 0.05;
const MOST_PARTS = 4;

interface Part {
  lengthMs: number;
  readonly words: readonly BecausePart[];
}

/** What a step was spent on, and by what others of the same kind are known. */
function wordsFor(
  recording: Recording,
  phase: Phase,
  step: Detail['steps'][number],
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
export function becauseOfOutcome(
  recording: Recording,
  { sting, phases }: Anatomy,
  detail: Detail,
): BecausePart[] {
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
  const told = [...parts.values()]
    .filter(({ lengthMs }) => lengthMs >= sting.feltMs * WORTH_SHARE)
    .sort((a, b) => b.lengthMs - a.lengthMs)
    .slice(0, MOST_PARTS);
  const list = told.flatMap(({ lengthMs, words }, at) => [
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
