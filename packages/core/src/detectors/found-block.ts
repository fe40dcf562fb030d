import type { Recording } from '../recording/recording';
import { blockLabel } from '../stings/handlers';
import type { ReportedBusy } from '../stings/reported-busy';
import type { Found } from './detector';

/** One unbroken stretch in which the thread was taken, as hangs and long tasks are found. */
export function foundBlock(
  recording: Recording,
  { thread, startMs, endMs, busyMs, source }: ReportedBusy,
  budgetMs: number,
): Found {
  const label = blockLabel(recording, thread, { startMs, endMs }, source);
  return { thread, label, startMs, endMs, feltMs: busyMs, budgetMs };
}
