import { canonicalFunction } from '../attribution/call-path';
import { ownerOf, type Owner, type RecordedFunction } from '../recording/functions';
import { samplesOf, type Recording } from '../recording/recording';
import { partition } from '../attribution/partition';
import { stackFacts } from '../attribution/stack-facts';
import { NO_STACK } from '../format/packed-samples';
import { callsOfRow, functionTable, type FunctionRow } from './function-table';
import { mostOf } from '../statistics/most';
import { lensRange, type Lens } from './lens';

/**
 * What one line of a file cost. Where lines are known (in fine mode, and by what other programs tell), its own time; else
 * that of the functions that begin there.
 */
export interface LineCost {
  /** From 1. */
  readonly line: number;
  /** Time on the line itself. */
  readonly selfMs: number;
  /** The same with the time in calls that were made from it. */
  readonly totalMs: number;
  /** Samples that saw the thread on it; 0 where lines are not known. */
  readonly samples: number;
  /** How far chance may have moved the own time, where samples saw it: one standard error, each taken to be by chance. */
  readonly selfErrorMs: number;
  /** The function that stood on it most; undefined where lines are not known, and of lines that took no time themselves. */
  readonly functionId: number | undefined;
  /** Of the own time of that function, the share that was on this line, 0 to 1; 0 where lines are not known. */
  readonly share: number;
  /** What was called from it, the dearest first; none where lines are not known. */
  readonly called: readonly CalledFromLine[];
  /** Calls of the functions that begin there. */
  readonly count: number;
  /** How often layout was forced on this line, and what it took. */
  readonly forcedCount: number;
  readonly forcedMs: number;
  readonly functionIds: readonly number[];
}

/** A function that was called from a line. */
export interface CalledFromLine {
  readonly functionId: number;
  /** Time in it, and in all it called, when called from there. Milliseconds. */
  readonly totalMs: number;
}

type Growing = { -readonly [Key in keyof LineCost]: LineCost[Key] } & { functionIds: number[] };

export interface FileCosts {
  /** Path of the original source, or address of the script where none is known. */
  readonly file: string;
  readonly owner: Owner;
  readonly lines: readonly LineCost[];
  readonly selfMs: number;
}

/** File and line of a function, as resolved or else as it ran. */
export function filePlaceOf(
  recording: Recording,
  recorded: RecordedFunction | undefined,
): { readonly file: string; readonly line: number } | undefined {
  if (recorded === undefined) return undefined;
  const { originalFile, originalLine, source, line } = recorded;
  if (originalFile !== undefined && originalLine !== undefined)
    return { file: originalFile, line: originalLine };
  const url = source === undefined ? undefined : recording.sources.get(source)?.url;
  return url === undefined || line === undefined ? undefined : { file: url, line };
}

/**
 * Cost beside the lines of every file under a lens, the dearest file first.
 * @param rows the functions under the lens, where they were worked out already
 */
export function fileCosts(
  recording: Recording,
  lens: Lens,
  rows: readonly FunctionRow[] = functionTable(recording, lens),
): FileCosts[] {
  const costs = new GrowingCosts(recording);
  const { knowsLines } = recording.stacks;
  for (const row of rows) {
    const line = costs.ofFunction(row.functionId);
    if (line === undefined) continue;
    line.count += callsOfRow(row);
    line.functionIds.push(row.functionId);
    if (knowsLines) continue;
    line.selfMs += row.selfMs;
    line.totalMs += row.totalMs;
  }
  const forcedLines = knowsLines
    ? addLineTimes(recording, lens, costs)
    : new Map<number, Map<Growing, number>>();
  const { startMs, endMs } = lensRange(recording, lens);
  for (const forced of recording.events.forced.overlapping(startMs, endMs)) {
    if (forced.thread !== lens.thread || forced.function === undefined) continue;
    const functionId = canonicalFunction(recording, forced.function);
    const begin = costs.ofFunction(functionId);
    if (begin === undefined) continue;
    const seen = forcedLines.get(functionId) ?? new Map([[begin, 1]]);
    const whole = [...seen.values()].reduce((sum, ms) => sum + ms, 0);
    for (const [line, ms] of seen) {
      line.forcedCount += (forced.count * ms) / whole;
      line.forcedMs += (forced.costMs * ms) / whole;
    }
  }
  costs.roundCounts();
  return costs.files();
}

/** Costs by file and line, as they are added up. */
class GrowingCosts {
  readonly #files = new Map<string, Map<number, Growing>>();
  readonly #owners = new Map<string, Owner>();
  readonly #ofStacks = new Map<number, Growing | undefined>();

  constructor(private readonly recording: Recording) {}

  ofFunction(functionId: number): Growing | undefined {
    const recorded = this.recording.functions.get(functionId);
    const place = filePlaceOf(this.recording, recorded);
    return place && this.#at(place.file, place.line, recorded);
  }

  /** The line at which the innermost function of a stack stood, or else that at which it begins. */
  ofStack(stack: number): Growing | undefined {
    if (!this.#ofStacks.has(stack)) this.#ofStacks.set(stack, this.#lineOf(stack));
    return this.#ofStacks.get(stack);
  }

  #lineOf(stack: number): Growing | undefined {
    const { stacks, functions } = this.recording;
    const recorded = functions.get(canonicalFunction(this.recording, stacks.functionOf(stack)));
    const place = filePlaceOf(this.recording, recorded);
    return place && this.#at(place.file, stacks.lineOf(stack) || place.line, recorded);
  }

  /** Forced layouts that were shared out among lines are told in whole ones. */
  roundCounts(): void {
    for (const lines of this.#files.values())
      for (const line of lines.values()) line.forcedCount = Math.round(line.forcedCount);
  }

  files(): FileCosts[] {
    return [...this.#files]
      .map(([file, byLine]) => {
        const lines = [...byLine.values()].sort((a, b) => a.line - b.line);
        const owner = this.#owners.get(file)!;
        return { file, owner, lines, selfMs: lines.reduce((sum, { selfMs }) => sum + selfMs, 0) };
      })
      .sort((a, b) => b.selfMs - a.selfMs || (a.file < b.file ? -1 : 1));
  }

  #at(file: string, line: number, recorded: RecordedFunction | undefined): Growing {
    let lines = this.#files.get(file);
    if (lines === undefined) {
      this.#files.set(file, (lines = new Map()));
      this.#owners.set(file, ownerOf(recorded));
    }
    let cost = lines.get(line);
    if (cost === undefined) lines.set(line, (cost = emptyLine(line)));
    return cost;
  }
}

/**
 * Adds the time of each moment to the line that ran, and to those that had called it.
 * @returns by function, where style and layout ran that it had forced: time by line
 */
function addLineTimes(
  recording: Recording,
  lens: Lens,
  costs: GrowingCosts,
): Map<number, Map<Growing, number>> {
  const { stacks } = recording;
  const facts = stackFacts(recording);
  const range = lensRange(recording, lens);
  const msOf = new Map<number, number>();
  const selfOf = new SelfTimes();
  const forced = new Map<number, Map<Growing, number>>();
  for (const { stack, activity, startMs, endMs } of partition(recording, lens.thread, range)) {
    if (stack === NO_STACK) continue;
    const ms = endMs - startMs;
    msOf.set(stack, (msOf.get(stack) ?? 0) + ms);
    if (activity === 'style' || activity === 'layout') {
      const isEngines = recording.functions.get(stacks.functionOf(stack))?.activity !== undefined;
      const by = isEngines ? stacks.parentOf(stack) : stack;
      const line = by !== NO_STACK && stacks.lineOf(by) > 0 ? costs.ofStack(by) : undefined;
      if (line !== undefined) addTo(forced, facts.innermost(by), line, ms);
    }
    if (activity !== 'script') continue;
    const stood = lens.foldLibraries ? facts.chargedStack(stack) : stack;
    const line = costs.ofStack(stood);
    if (line === undefined) continue;
    line.selfMs += ms;
    selfOf.add(line, facts.innermost(stood), ms);
  }
  selfOf.settleShares();
  const called = new Map<Growing, Map<number, number>>();
  for (const [stack, ms] of msOf) {
    const lines = new Set<Growing>();
    for (let at = stack, below = NO_STACK; at !== NO_STACK; below = at, at = stacks.parentOf(at)) {
      const line = costs.ofStack(at);
      if (line === undefined) continue;
      if (below !== NO_STACK && !lines.has(line)) addTo(called, line, facts.innermost(below), ms);
      lines.add(line);
    }
    for (const line of lines) line.totalMs += ms;
  }
  for (const [line, byFunction] of called) {
    line.called = Array.from(byFunction, ([functionId, totalMs]) => ({ functionId, totalMs })).sort(
      (a, b) => b.totalMs - a.totalMs,
    );
  }
  const samples = samplesOf(recording, lens.thread);
  const end = samples.firstAtOrAfter(range.endMs);
  /** Of those that came together, each counts as many times as they were: their variance is the square of that. */
  const together = new Map<Growing, number>();
  for (let at = samples.firstAtOrAfter(range.startMs); at < end; at++) {
    if (!samples.hasScript(at)) continue;
    const stack = samples.stacks[at]!;
    const line = costs.ofStack(lens.foldLibraries ? facts.chargedStack(stack) : stack);
    if (line === undefined) continue;
    line.samples++;
    together.set(line, (together.get(line) ?? 0) + samples.togetherAt(at));
  }
  for (const [line, sum] of together) {
    const share = Math.min(1, Math.sqrt(sum) / line.samples);
    line.selfErrorMs = line.selfMs * share || samples.intervalMs;
  }
  return forced;
}

/** Own times of functions by line. */
class SelfTimes {
  readonly #ofLine = new Map<Growing, Map<number, number>>();
  readonly #ofFunction = new Map<number, number>();

  add(line: Growing, functionId: number, ms: number): void {
    addTo(this.#ofLine, line, functionId, ms);
    this.#ofFunction.set(functionId, (this.#ofFunction.get(functionId) ?? 0) + ms);
  }

  /** Gives each line the function that stood on it most, and the share it has of that. */
  settleShares(): void {
    for (const [line, byFunction] of this.#ofLine) {
      const [functionId, ms] = mostOf(byFunction)!;
      line.functionId = functionId;
      line.share = ms / this.#ofFunction.get(functionId)!;
    }
  }
}

function addTo<Key, Within>(sums: Map<Key, Map<Within, number>>, key: Key, within: Within, ms: number): void {
  let inKey = sums.get(key);
  if (inKey === undefined) sums.set(key, (inKey = new Map()));
  inKey.set(within, (inKey.get(within) ?? 0) + ms);
}

function emptyLine(line: number): Growing {
  return {
    line,
    selfMs: 0,
    totalMs: 0,
    samples: 0,
    selfErrorMs: 0,
    share: 0,
    functionId: undefined,
    called: [],
    count: 0,
    forcedCount: 0,
    forcedMs: 0,
    functionIds: [],
  };
}
