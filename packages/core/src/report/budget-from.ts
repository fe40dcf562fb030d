import { delayStepMs } from '../inputs/delay-step';
import type { Recording } from '../recording/recording';
import {
  forcedLayoutsIn,
  heldDelays,
  idleShareOf,
  longTasksMs,
  outcomesIn,
  quietIn,
  redrawRatesIn,
  responsesIn,
  type HeldBy,
} from './budget';
import { budgetSchema, type Budget } from './budget-schema';

interface BudgetMaking {
  /** How much more is allowed than was found, 0.1 for a tenth. */
  readonly margin: number;
  /** Which of several values is taken; `check` has to hold by the same. */
  readonly by: HeldBy;
}

/** Elements that are written to less often are allowed so much together with all others. Times a second. */
const OFTEN = 1;
/** So many elements have a line of their own. */
const MAX_ELEMENTS = 20;

/** Up to the next multiple of a step. */
function upTo(value: number, step: number): number {
  return Number((Math.ceil(value / step - 1e-9) * step).toFixed(6));
}

/** What is allowed of redraws: of each element that is written to often as it was, of any other as of the most of them. */
function redrawsFrom(recordings: readonly Recording[], margin: number): Budget['redrawsASecond'] {
  const rates = new Map<string | undefined, number>();
  for (const [element, rate] of recordings.flatMap(redrawRatesIn))
    rates.set(element, Math.max(rate, rates.get(element) ?? 0));
  const allowed = (rate: number) => Math.ceil(rate * (1 + margin) * 10) / 10;
  const often = [...rates]
    .sort(([, a], [, b]) => b - a)
    .flatMap(([element, rate]) => (element !== undefined && rate > OFTEN ? [{ element, rate }] : []))
    .slice(0, MAX_ELEMENTS);
  for (const { element } of often) rates.delete(element);
  return [
    { element: '*', redraws: Math.max(OFTEN, ...[...rates.values()].map(allowed)) },
    ...often.map(({ element, rate }) => ({ element, redraws: allowed(rate) })),
  ];
}

/**
 * A budget that recordings keep as they are, and that is exceeded by what is worse by more than a margin: "hold this
 * line". Delays are allowed up to the next step the browser tells them in.
 * @param recordings at least one
 */
export function budgetFrom(recordings: readonly Recording[], { margin, by }: BudgetMaking): Budget {
  const stepMs = Math.max(1, ...recordings.map(delayStepMs));
  const atMost = (value: number, step: number) => upTo(value * (1 + margin), step);
  const worst = (of: (recording: Recording) => number) => Math.max(...recordings.map(of));
  const delays = (of: typeof responsesIn) =>
    [...heldDelays(recordings, of, by)].map(([label, { ms }]) => ({ label, ms: atMost(ms, stepMs) }));
  const quiet = recordings.flatMap(quietIn);
  const mostOf = (of: 'redraws' | 'scriptMs' | 'requests') =>
    atMost(Math.max(...quiet.map((one) => one[of])), 1);
  return budgetSchema.cast({
    responses: delays(responsesIn),
    outcomes: delays(outcomesIn),
    longTaskMs: atMost(worst(longTasksMs), 1),
    forcedLayouts: atMost(worst(forcedLayoutsIn), 1),
    redrawsASecond: redrawsFrom(recordings, margin),
    ...(quiet.length === 0
      ? {}
      : {
          quiet: { redraws: mostOf('redraws'), scriptMs: mostOf('scriptMs'), requests: mostOf('requests') },
        }),
    idleShare: Math.min(1, atMost(worst(idleShareOf), 0.001)),
  });
}
