import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { rootCalls } from '../stings/root-calls';
import { findIdleWork } from './idle-work';
import { writtenRedraws } from '../stings/redraw-writers';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

const LEAST_TIMES_A_SECOND = 10;
const LEAST_UNCHANGED_SHARE = 0.5;
const LEAST_SECONDS = 1;

interface Redrawn {
  all: number;
  unchanged: number;
  firstMs: number;
  lastMs: number;
  target: string | undefined;
}

function redrawnByFunction(recording: Recording): Map<number, Redrawn> {
  const found = new Map<number, Redrawn>();
  const { redraw } = recording.events;
  const { startMs: starts, changed } = redraw.columns;
  for (const { at, functionId } of writtenRedraws(recording, MAIN_THREAD)) {
    const startMs = starts[at]!;
    let redrawn = found.get(functionId);
    if (redrawn === undefined) {
      redrawn = { all: 0, unchanged: 0, firstMs: startMs, lastMs: startMs, target: undefined };
      found.set(functionId, redrawn);
    }
    redrawn.all++;
    redrawn.lastMs = startMs;
    if (changed[at] === 1) continue;
    redrawn.unchanged++;
    redrawn.target ??= redraw.value('target', at);
  }
  return found;
}

/**
 * Functions that draw many times a second and mostly what is there already, also while somebody uses the app. What does
 * so while nobody does anything is told as idle work.
 */
export function findRedrawnTooOften(recording: Recording, thresholds: Thresholds): Sting[] {
  const idle = new Set(
    findIdleWork(recording, thresholds).map(({ detail }) =>
      detail?.type === 'idle-work' ? detail.functionId : -1,
    ),
  );
  const entered = rootCalls(recording, MAIN_THREAD);
  return [...redrawnByFunction(recording)].flatMap(
    ([functionId, { all, unchanged, firstMs, lastMs, target }]): Sting[] => {
      const recorded = recording.functions.get(functionId);
      const seconds = (lastMs - firstMs) / 1000;
      if (idle.has(functionId) || ownerOf(recorded) === 'browser' || seconds < LEAST_SECONDS) return [];
      if (all / seconds < LEAST_TIMES_A_SECOND || unchanged / all < LEAST_UNCHANGED_SHARE) return [];
      const ms = entered
        .filter((call) => call.functionId === functionId && call.startMs <= lastMs && call.endMs >= firstMs)
        .reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
      if (ms / seconds < thresholds.idleMsASecond) return [];
      return [
        {
          kind: 'too-often',
          also: [],
          thread: MAIN_THREAD,
          label: `Too many redraws of ${displayName(recorded)}`,
          startMs: firstMs,
          endMs: lastMs,
          feltMs: ms / seconds,
          budgetMs: thresholds.idleMsASecond,
          detail: {
            type: 'redrawn-too-often',
            functionId,
            timesASecond: all / seconds,
            msASecond: ms / seconds,
            unchangedShare: unchanged / all,
            target,
          },
        },
      ];
    },
  );
}
