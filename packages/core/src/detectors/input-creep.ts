import type { Anatomy } from '../explanation/anatomy';
import { mostBelow } from '../explanation/most-below';
import { roundText } from '../words/figures';
import { functionPart, ms, text, times, type BecausePart } from '../explanation/sentence';
import type { Slope } from '../statistics/theil-sen';
import { actionDeed } from '../inputs/action';
import { interactionsOf, type Interaction } from '../inputs/interactions';
import { appendTo } from '../recording/group';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { growthChance } from '../statistics/growth';
import { holm } from '../statistics/holm';
import { mostOf } from '../statistics/most';
import { rootCalls } from '../stings/root-calls';
import { CREEP_ERROR_RATE, grownBy } from './grown';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';

export interface InputCreepDetail extends StingDetail {
  readonly type: 'input-creep';
  /** The function entered most for it, where it is known. */
  readonly functionId: number | undefined;
  /** What was done, within a sentence. */
  readonly deed: string;
  readonly attempts: number;
  /** What handling took in the first and in the last quarter. */
  readonly fromMs: number;
  readonly toMs: number;
  /** Growth an attempt, in milliseconds, with its 95 % interval. */
  readonly slope: Slope;
}

const MIN_ATTEMPTS = 14;

/** What handling an input took; of one that was too quick to be reported nothing is known but that it was short. */
function costOf({ measured, processingStartMs, processingEndMs }: Interaction): number {
  return measured ? processingEndMs - processingStartMs : 0;
}

function byLabel(recording: Recording): Map<string, Interaction[]> {
  const groups = new Map<string, Interaction[]>();
  for (const interaction of interactionsOf(recording)) {
    if (interaction.thread !== MAIN_THREAD) continue;
    appendTo(groups, interaction.label, interaction);
  }
  return groups;
}

/** The function that was entered for the longest in all answers together. */
function handlerOf(recording: Recording, attempts: readonly Interaction[]): number | undefined {
  const ms = new Map<number, number>();
  const entered = rootCalls(recording, MAIN_THREAD);
  let next = 0;
  for (const { processingStartMs, processingEndMs } of attempts) {
    while (next < entered.length && entered[next]!.endMs <= processingStartMs) next++;
    for (let at = next; at < entered.length && entered[at]!.startMs < processingEndMs; at++) {
      const { functionId, startMs, endMs } = entered[at]!;
      ms.set(functionId, (ms.get(functionId) ?? 0) + endMs - startMs);
    }
  }
  return mostOf(ms)?.[0];
}

/** More attempts than this are taken together, so many neighbours at once. */
const MAX_BLOCKS = 240;

/** Values as they are, or the means of neighbours where there are many. */
function inBlocks(values: readonly number[]): Float64Array {
  const size = Math.ceil(values.length / MAX_BLOCKS);
  return Float64Array.from({ length: Math.floor(values.length / size) }, (_, block) => {
    let sum = 0;
    for (let at = block * size; at < (block + 1) * size; at++) sum += values[at]!;
    return sum / size;
  });
}

/** What a person does again and again, and that takes longer each time. */
function find(recording: Recording, thresholds: Thresholds): Found<InputCreepDetail>[] {
  const tested = [...byLabel(recording)]
    .filter(([, attempts]) => attempts.length >= MIN_ATTEMPTS)
    .map(([label, attempts]) => ({ label, attempts, costs: inBlocks(attempts.map(costOf)) }));
  const grows = holm(
    tested.map(({ costs }) => growthChance(costs)),
    CREEP_ERROR_RATE,
  );
  return tested.flatMap(({ label, attempts, costs }, index): Found<InputCreepDetail>[] => {
    if (!grows[index]) return [];
    const anAttempt = attempts.length / costs.length;
    const cost = grownBy(costs, (at) => at * anAttempt, thresholds);
    if (cost === undefined) return [];
    const [first, last] = [attempts[0]!, attempts.at(-1)!];
    return [
      {
        thread: MAIN_THREAD,
        label: `Each slower than the last: ${label}`,
        startMs: first.startMs,
        endMs: last.startMs + last.feltMs,
        feltMs: cost.last,
        budgetMs: cost.first + thresholds.creepMsASecond,
        detail: {
          type: 'input-creep',
          functionId: handlerOf(recording, attempts),
          deed: actionDeed(first.action, first.target),
          attempts: attempts.length,
          fromMs: cost.first,
          toMs: cost.last,
          slope: cost.slope,
        },
      },
    ];
  });
}

function because(
  recording: Recording,
  { sting: { thread } }: Anatomy,
  { functionId, deed, attempts, fromMs, toMs, slope }: InputCreepDetail,
): BecausePart[] {
  const more = roundText(slope.slope);
  return [
    text(`The more often it was done, the longer ${deed} was handled: `),
    ms(fromMs),
    text(' at first, '),
    ms(toMs, true),
    text(` after ${times(attempts)}, about ${more} ms more each time.`),
    ...(functionId === undefined
      ? []
      : [text(' It was handled by '), functionPart(recording, functionId), text('.')]),
    ...(functionId === undefined ? [] : mostBelow(recording, thread, functionId)),
  ];
}

export const inputCreep: Detector<'creep', InputCreepDetail> = {
  kind: 'creep',
  detail: 'input-creep',
  label: 'creep',
  about: 'What is done again and again, and takes longer each time',
  extent: 'course',
  isRate: false,
  find,
  because,
};
