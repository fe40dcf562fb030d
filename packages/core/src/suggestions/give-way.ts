import { canonicalFunction } from '../attribution/call-path';
import { culpritsOf, firstOwn } from '../explanation/culprits';
import { partition } from '../attribution/partition';
import { NEARLY_ALL, hotLineClause } from '../explanation/because-culprits';
import { functionPart, ms, text } from '../explanation/sentence';
import { isOwnFunction } from '../recording/functions';
import type { Adviser } from './suggestion';

const LONG_TASK_MS = 50;
const MIN_SHARE = 0.5;

/** One long entry into script, most of it in one own function: cut in pieces it would let an input through. */
export const giveWay: Adviser = (recording, { handlers, sting }) => {
  if (sting.extent !== 'block') return [];
  const longest = handlers.reduce<(typeof handlers)[number] | undefined>(
    (a, b) => (a === undefined || b.durationMs > a.durationMs ? b : a),
    undefined,
  );
  if (longest === undefined || longest.durationMs <= LONG_TASK_MS) return [];
  const range = { startMs: longest.startMs, endMs: longest.startMs + longest.durationMs };
  const worst = firstOwn(recording, culpritsOf(recording, partition(recording, sting.thread, range)));
  if (worst === undefined) return [];
  const workedMs = worst.selfMs + worst.attributedMs;
  if (workedMs < MIN_SHARE * longest.durationMs) return [];
  const entered = longest.function === undefined ? undefined : canonicalFunction(recording, longest.function);
  const place = functionPart(recording, worst.functionId);
  return [
    {
      kind: 'give-way',
      advice: [
        text('Let inputs through while '),
        place,
        text(' works: do it in pieces of less than 50 ms, or in a worker.'),
      ],
      evidence: [
        entered === undefined || !isOwnFunction(recording, entered)
          ? text('One entry into script')
          : functionPart(recording, entered),
        text(' ran for '),
        ms(longest.durationMs),
        text(' without a break, '),
        ms(workedMs),
        text(
          worst.selfMs > workedMs * NEARLY_ALL
            ? ' of it in its own code'
            : ' of it in its code and what that called',
        ),
        ...hotLineClause(recording, worst),
        text('.'),
      ],
      functionId: worst.functionId,
      range,
      savesMs: Math.max(0, longest.durationMs - LONG_TASK_MS),
    },
  ];
};
