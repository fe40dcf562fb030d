import { delayStepMs } from '../inputs/delay-step';
import type { Recording } from '../recording/recording';
import { forcedLayoutsIn, heldResponses, idleShareOf, longTasksMs, type HeldBy } from './budget';
import { budgetSchema, type Budget } from './budget-schema';

interface BudgetMaking {
  /** How much more is allowed than was found, 0.1 for a tenth. */
  readonly margin: number;
  /** Which of several values is taken; `check` has to hold by the same. */
  readonly by: HeldBy;
}

/**
 * A budget that recordings keep as they are, and that is exceeded by what is worse by more than a margin: "hold this
 * line". Delays are allowed up to the next step the browser tells them in.
 * @param recordings at least one
 */
export function budgetFrom(recordings: readonly Recording[], { margin, by }: BudgetMaking): Budget {
  const stepMs = Math.max(1, ...recordings.map(delayStepMs));
  const atMost = (value: number, step: number) => Math.ceil((value * (1 + margin)) / step - 1e-9) * step;
  const worst = (of: (recording: Recording) => number) => Math.max(...recordings.map(of));
  return budgetSchema.cast({
    responses: [...heldResponses(recordings, by)].map(([label, { ms }]) => ({
      label,
      ms: atMost(ms, stepMs),
    })),
    longTaskMs: atMost(worst(longTasksMs), 1),
    forcedLayouts: atMost(worst(forcedLayoutsIn), 1),
    idleShare: Math.min(1, atMost(worst(idleShareOf), 0.001)),
  });
}
