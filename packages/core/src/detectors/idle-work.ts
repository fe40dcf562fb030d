import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { rootCalls } from '../stings/root-calls';
import { idleIntervals, withinRanges } from '../stings/idle-intervals';
import { writtenRedraws } from '../stings/redraw-writers';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** Of what was written, the share that must have changed nothing anybody could see. */
const LEAST_VAIN_SHARE = 2 / 3;
const LEAST_REDRAWS = 2;

interface Redraws {
  all: number;
  unchanged: number;
  unseen: number;
  vain: number;
  target: string | undefined;
}

function redrawsByFunction(recording: Recording, quiet: readonly TimeRange[]): Map<number, Redraws> {
  const found = new Map<number, Redraws>();
  const isQuiet = withinRanges(quiet);
  const { redraw } = recording.events;
  const { startMs, changed, inView } = redraw.columns;
  for (const { at, functionId } of writtenRedraws(recording, MAIN_THREAD)) {
    if (!isQuiet(startMs[at]!)) continue;
    const redraws = found.get(functionId) ?? { all: 0, unchanged: 0, unseen: 0, vain: 0, target: undefined };
    found.set(functionId, redraws);
    redraws.all++;
    if (changed[at] !== 1) redraws.unchanged++;
    if (inView[at] !== 1) redraws.unseen++;
    if (changed[at] === 1 && inView[at] === 1) continue;
    redraws.vain++;
    redraws.target ??= redraw.value('target', at);
  }
  return found;
}

/**
 * Work while nobody does anything whose redraws change nothing, or nothing that can be seen. Only what is known to
 * have written to the page in vain is named: what draws on a canvas, or writes nothing, may have its use.
 */
export function findIdleWork(recording: Recording, thresholds: Thresholds): Sting[] {
  const quiet = idleIntervals(recording);
  const quietMs = quiet.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  if (quietMs === 0) return [];
  const entered = rootCalls(recording, MAIN_THREAD);
  const redraws = redrawsByFunction(recording, quiet);
  const isQuiet = withinRanges(quiet);
  const runs = entered.filter(({ startMs }) => isQuiet(startMs));
  return [...redraws].flatMap(([functionId, { all, unchanged, unseen, vain, target }]): Sting[] => {
    const recorded = recording.functions.get(functionId);
    if (vain < LEAST_REDRAWS || vain / all < LEAST_VAIN_SHARE || ownerOf(recorded) === 'browser') return [];
    const own = runs.filter((run) => run.functionId === functionId);
    const seconds = quietMs / 1000;
    const msASecond = own.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0) / seconds;
    if (own.length === 0 || msASecond < thresholds.idleMsASecond) return [];
    return [
      {
        kind: 'idle-work',
        also: [],
        thread: MAIN_THREAD,
        label: `Idle work of ${displayName(recorded)}`,
        startMs: own[0]!.startMs,
        endMs: own.at(-1)!.endMs,
        feltMs: msASecond,
        budgetMs: thresholds.idleMsASecond,
        detail: {
          type: 'idle-work',
          functionId,
          timesASecond: own.length / seconds,
          msASecond,
          unchangedShare: unchanged / all,
          unseenShare: unseen / all,
          target,
        },
      },
    ];
  });
}
