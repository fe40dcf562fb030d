import { interactionsOf, type Interaction } from '../inputs/interactions';
import { appendTo } from '../recording/group';
import type { Recording } from '../recording/recording';
import { firstIndex } from '../statistics/search';
import { handlersIn } from '../inputs/links';
import { linksOf, type Handler } from '../inputs/links';

/** A listener and the event it answers may be told of to different steps of the clock. */
const NEAR_MS = 1;
/** So many runs of one callback, asked for by one handler, repeat. */
const REPEATS = 4;
/** What would have come again by then has ended. */
const PERIODS = 2;

/** Everything that an input set going, each entry into script with what asked for it. */
export interface Chain {
  /** The listeners that answered the input itself. */
  readonly roots: readonly Handler[];
  /** These and all that came of them, in order of time. */
  readonly handlers: readonly Handler[];
}

/** Where the event that ends an input was not reported, its listeners are those that ran this soon, before another input. */
const ENDS_WITHIN_MS = 1000;

/** Listeners of events that nothing is known to have asked for. */
function listenersIn(recording: Recording, thread: number, startMs: number, endMs: number): Handler[] {
  return handlersIn(recording, thread, { startMs, endMs }).filter(
    ({ type, schedule }) => type === 'event-listener' && schedule === undefined,
  );
}

/** The listeners of the event that ends an input, where only they tell of it. */
function endingListeners(recording: Recording, interaction: Interaction, untilMs: number): Handler[] {
  const { thread, startMs, unended } = interaction;
  if (unended === undefined) return [];
  const inputs = interactionsOf(recording);
  const next = inputs[firstIndex(inputs.length, (at) => inputs[at]!.startMs > startMs)];
  const endMs = Math.min(startMs + ENDS_WITHIN_MS, next?.startMs ?? Infinity, untilMs);
  return listenersIn(recording, thread, startMs, endMs).filter(
    (handler) => handler.startMs >= startMs && handler.invoker.endsWith(`.on${unended}`),
  );
}

/** The listeners that answered an input: those that ran while one of its events was handled. */
function rootsOf(recording: Recording, interaction: Interaction, untilMs: number): Handler[] {
  const { thread, handled } = interaction;
  const roots = new Set(endingListeners(recording, interaction, untilMs));
  for (const { startMs, endMs } of handled) {
    const [fromMs, untilMs] = [startMs - NEAR_MS, endMs + NEAR_MS];
    for (const handler of listenersIn(recording, thread, fromMs, untilMs))
      if (handler.startMs >= fromMs && handler.startMs + handler.durationMs <= untilMs) roots.add(handler);
  }
  return [...roots];
}

/** Runs of one callback that go on until nothing more is known count once: they are no consequence that comes to an end. */
function withoutEndless(runs: readonly Handler[], untilMs: number): readonly Handler[] {
  if (runs.length < REPEATS) return runs;
  const [first, last] = [runs[0]!, runs.at(-1)!];
  const periodMs = (last.startMs - first.startMs) / (runs.length - 1);
  return last.startMs + PERIODS * periodMs >= untilMs ? [first] : runs;
}

/**
 * Follows what an input set going, through timers, frames, messages and requests.
 * @param untilMs what comes later is not followed
 */
export function chainOf(recording: Recording, interaction: Interaction, untilMs: number): Chain {
  const { asked, cameOf } = linksOf(recording);
  const roots = rootsOf(recording, interaction, untilMs);
  const found = new Set<Handler>(roots);
  for (const handler of found) {
    const runs = new Map<string, Handler[]>();
    for (const { id, type } of asked.get(handler.id ?? -1) ?? []) {
      for (const run of cameOf.get(id) ?? []) {
        if (run.startMs < untilMs) appendTo(runs, `${type} ${run.function ?? run.invoker}`, run);
      }
    }
    for (const repeated of runs.values()) for (const run of withoutEndless(repeated, untilMs)) found.add(run);
  }
  return { roots, handlers: [...found].sort((a, b) => a.startMs - b.startMs) };
}
