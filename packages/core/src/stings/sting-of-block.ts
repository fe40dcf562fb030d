import type { Recording } from '../recording/recording';
import type { ReportedBusy } from './reported-busy';
import { blockLabel } from './handlers';
import type { Sting } from './sting';

/** A busy stretch as a sting. */
export function stingOfBlock(
  recording: Recording,
  { thread, startMs, endMs, busyMs, source }: ReportedBusy,
  kind: 'hang' | 'long-task',
  budgetMs: number,
): Sting {
  const label = blockLabel(recording, thread, { startMs, endMs }, source);
  return { kind, also: [], thread, label, startMs, endMs, feltMs: busyMs, budgetMs };
}
