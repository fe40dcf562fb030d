import type { Recording } from '../recording/recording';
import type { BusyBlock } from './busy-blocks';
import { blockLabel } from './entry-label';
import type { Sting } from './sting';

/** A busy stretch as a sting. */
export function stingOfBlock(
  recording: Recording,
  { thread, startMs, endMs, busyMs, source }: BusyBlock,
  kind: 'hang' | 'long-task',
  budgetMs: number,
): Sting {
  const label = blockLabel(recording, thread, { startMs, endMs }, source);
  return { kind, also: [], thread, label, startMs, endMs, feltMs: busyMs, budgetMs };
}
