import {
  MAIN_THREAD,
  busyIntervals,
  exactCost,
  interactionsOf,
  thresholdsOf,
  type Interaction,
  type Recording,
  type Skyline,
  type Sting,
} from '@nettle-patch/core';
import type { Verdict } from '../../store/database';
import { isBlind } from './delay-coverage';

const CARD_STEPS = 80;

/** What the shelf tells of a recording without reading it again. */
export function verdictOf(recording: Recording, stings: readonly Sting[], skyline: Skyline): Verdict {
  const columns = Object.values(skyline.parts);
  const perStep = skyline.steps / CARD_STEPS;
  const cost = exactCost(recording);
  const answered = interactionsOf(recording);
  const slowest = slowestOf(answered.filter(({ measured }) => measured));
  const heights = Array.from({ length: CARD_STEPS }, (_, card) => {
    let busyMs = 0;
    for (let step = Math.floor(card * perStep); step < (card + 1) * perStep; step++) {
      for (const column of columns) busyMs += column[step] ?? 0;
    }
    return Math.min(1, busyMs / (skyline.stepMs * perStep));
  });
  return {
    stings: stings.length,
    worstMs: stings[0]?.feltMs ?? 0,
    ...(stings[0]?.isRate === true ? { worstIsRate: true } : {}),
    slowestResponseMs: slowest > 0 ? slowest : slowestOf(answered),
    slowestIsBelow: slowest === 0 && answered.length > 0,
    longTaskMs: longTasksMs(recording),
    blind: isBlind(recording.header),
    ...(cost === undefined ? {} : { exactFactor: cost.factor }),
    skyline: heights,
  };
}

const slowestOf = (interactions: readonly Interaction[]) =>
  interactions.reduce((most, { feltMs }) => Math.max(most, feltMs), 0);

function longTasksMs(recording: Recording): number {
  const { longTaskMs } = thresholdsOf(recording.header);
  const lengths = busyIntervals(recording, MAIN_THREAD).map(({ startMs, endMs }) => endMs - startMs);
  return lengths.reduce((sum, ms) => sum + (ms > longTaskMs ? ms : 0), 0);
}
