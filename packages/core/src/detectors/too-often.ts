import type { Anatomy } from '../explanation/anatomy';
import { functionPart, ms, percent, text, times, type BecausePart } from '../explanation/sentence';
import { canonicalIds } from '../calls/canonical-stacks';
import { callWeights, quickFunctions } from '../recording/call-weights';
import { displayName, isOwnFunction } from '../recording/functions';
import { MAIN_THREAD, callsOf, type Recording } from '../recording/recording';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';
import { known } from '../lists/items';

export interface TooOftenDetail extends StingDetail {
  readonly type: 'too-often';
  readonly functionId: number;
  /** Calls in one task, and what they took together. */
  readonly calls: number;
  readonly totalMs: number;
}

/** The calls of one task, added up by function; a call inside another of the same function counts, but not its time. */
class CallsOfTask {
  readonly #counts = new Map<number, number>();
  readonly #lengthsUs = new Map<number, number>();
  readonly #openUntilUs = new Map<number, number>();

  /** @param weight how many calls it stands for @param readUs time of the clock that is in it */
  add(functionId: number, startUs: number, endUs: number, weight: number, readUs: number): void {
    if (weight === 0) return;
    this.#counts.set(functionId, (this.#counts.get(functionId) ?? 0) + weight);
    if (startUs < (this.#openUntilUs.get(functionId) ?? -Infinity)) return;
    this.#openUntilUs.set(functionId, endUs);
    this.#lengthsUs.set(
      functionId,
      (this.#lengthsUs.get(functionId) ?? 0) + weight * Math.max(0, endUs - startUs - readUs),
    );
  }

  /** Of the functions called at least so often, the one that took most in all. */
  dearest(
    leastCalls: number,
    isCounted: (functionId: number) => boolean,
  ): { functionId: number; calls: number; totalMs: number } | undefined {
    let found: { functionId: number; calls: number; totalMs: number } | undefined;
    for (const [functionId, calls] of this.#counts) {
      if (calls < leastCalls || !isCounted(functionId)) continue;
      const totalMs = known(this.#lengthsUs, functionId) / 1000;
      if (found === undefined || totalMs > found.totalMs) found = { functionId, calls, totalMs };
    }
    return found;
  }
}

/**
 * Own functions that one task called so often that the calls together took longer than a frame. Exact calls only: no
 * sample counts calls.
 */
function find(recording: Recording, thresholds: Thresholds): Found<TooOftenDetail>[] {
  const { startsUs, endsUs, stacks: stackIds, roots, length } = callsOf(recording, MAIN_THREAD);
  const { stacks, header, functions } = recording;
  const idOf = canonicalIds(recording);
  const isOwn = (functionId: number) => isOwnFunction(recording, functionId);
  const leastUs = header.refreshMs * 1000;
  const weightOf = callWeights(recording);
  const hasQuick = quickFunctions(recording).size > 0;
  const clockUs = (header.clockReadMs ?? 0) * 1000;
  return Array.from(roots).flatMap((root, index): Found<TooOftenDetail>[] => {
    const end = roots[index + 1] ?? length;
    if (endsUs[root]! - startsUs[root]! <= leastUs) return [];
    if (!hasQuick && end - root <= thresholds.callsATask) return [];
    const calls = new CallsOfTask();
    for (let at = root; at < end; at++) {
      const stack = stackIds[at]!;
      const weight = weightOf(stack);
      const readUs = weight > 1 ? clockUs : 0;
      calls.add(idOf(stacks.functionOf(stack)), startsUs[at]!, endsUs[at]!, weight, readUs);
    }
    const often = calls.dearest(thresholds.callsATask, isOwn);
    if (often === undefined || often.totalMs <= header.refreshMs) return [];
    return [
      {
        thread: MAIN_THREAD,
        label: `Too many calls of ${displayName(functions.get(often.functionId))}`,
        startMs: startsUs[root]! / 1000,
        endMs: endsUs[root]! / 1000,
        feltMs: often.totalMs,
        budgetMs: header.refreshMs,
        detail: { type: 'too-often', ...often },
      },
    ];
  });
}

function because(recording: Recording, anatomy: Anatomy, detail: TooOftenDetail): BecausePart[] {
  const lengthMs = anatomy.sting.endMs - anatomy.sting.startMs;
  return [
    text('One task called '),
    functionPart(recording, detail.functionId),
    text(` ${times(detail.calls)}: `),
    ms(detail.totalMs, true),
    text(
      `, ${percent(detail.totalMs / lengthMs)} of the task, where a frame has ${Math.round(anatomy.sting.budgetMs)} ms.`,
    ),
  ];
}

export const tooOften: Detector<'too-often', TooOftenDetail> = {
  kind: 'too-often',
  detail: 'too-often',
  label: 'too often',
  about:
    'A function that one task called more than `callsATask` times, for longer than a frame together; exact calls only',
  extent: 'spell',
  isRate: false,
  find,
  because,
};
