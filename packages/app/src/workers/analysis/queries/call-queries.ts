import {
  callsOfRow,
  countedCalls,
  CallTree,
  CallersTree,
  flameLayout,
  focusOn,
  functionTable,
  lensRange,
  styleOfFunction,
  occurrencesOf,
  rateOver,
  shortPlace,
  tallyCalls,
  type CallerNode,
  type Lens,
  type ItemStyle,
  type Neighbour,
  type OccurrenceStatistics,
  type Owner,
  type Recording,
  type Tally,
} from '@nettle-patch/core';
import { namedFunction } from '../named-function';
import type { NamedFunction } from '../analysis-results';
import { sortRows, type CallSort } from './sort-rows';

export type CallsMode = 'top' | 'bottom' | 'flat';

/** One line of a table or tree of calls, ready to be shown. Times are milliseconds. */
export interface CallRow {
  /** Tells the line from all others of its tree, also after it was made anew. */
  readonly key: string;
  readonly functionId: number;
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  readonly depth: number;
  readonly selfMs: number;
  readonly totalMs: number;
  /** Calls, exact or counted; 0 where only samples tell. */
  readonly count: number;
  /** Whether it is too quick for exact calls, so that only some of its calls have times; in a tree only these are counted. */
  readonly isQuick: boolean;
  readonly callsPerSecond: number;
  readonly hasChildren: boolean;
  readonly isOpen: boolean;
  readonly isHit: boolean;
}

/** What a line holds of itself, and how many of its calls have times. */
type CountedRow = Omit<CallRow, 'name' | 'place' | 'owner' | 'isHit' | 'isQuick' | 'callsPerSecond'> & {
  readonly timed: number;
};

export interface CallsPage {
  readonly rows: readonly CallRow[];
  /** Whether calls were counted: samples alone count none. */
  readonly isCounted: boolean;
  /** Lines that were left out because nobody could read so many: the last of the order. */
  readonly cut: number;
  readonly totalMs: number;
  /** Share of the time in functions that match what is searched for, each moment once; undefined without a search. */
  readonly hitShare: number | undefined;
}

/** A box of the flame graph with its words. */
export interface NamedBox {
  readonly node: number;
  readonly functionId: number;
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  readonly left: number;
  readonly width: number;
  readonly depth: number;
  readonly totalMs: number;
  readonly selfMs: number;
  /** Calls, exact or counted; 0 where only samples tell. */
  readonly count: number;
  readonly isHit: boolean;
  /** Style of the box, as the time view has it. */
  readonly style: ItemStyle;
}

/** Lines that lead to what took most time. */
export interface DearestPath {
  readonly keys: readonly string[];
  /** Of the last; undefined where there are no calls. */
  readonly functionId: number | undefined;
}

export interface NamedFlame {
  readonly boxes: readonly NamedBox[];
  /** From the outermost down to the box that is as wide as all; empty where all calls are. */
  readonly path: readonly { readonly node: number; readonly name: string }[];
  /** As that of a page. */
  readonly hitShare: number | undefined;
}

export interface NamedNeighbour extends Neighbour {
  readonly name: string;
  readonly place: string;
}

/** One function looked at closely. */
export interface FunctionDetails extends NamedFunction {
  readonly functionId: number;
  /** Under the lens, each moment once. */
  readonly selfMs: number;
  /** One standard error of it where it was sampled, else 0. */
  readonly selfErrorMs: number;
  readonly totalMs: number;
  readonly exact: boolean;
  readonly statistics: OccurrenceStatistics | undefined;
  /** How many occurrences took how long: upper bounds in milliseconds, and the number up to each. */
  readonly histogram: { readonly boundsMs: readonly number[]; readonly counts: readonly number[] };
  /** Occurrences in each of equal steps of the range. */
  readonly rate: { readonly stepMs: number; readonly startMs: number; readonly counts: readonly number[] };
  readonly callers: readonly NamedNeighbour[];
  readonly callees: readonly NamedNeighbour[];
}

const MAX_ROWS = 2000;
const RATE_STEPS = 60;
const MAX_NEIGHBOURS = 12;

/** What a lens makes of the calls: added up once, and seen from both ends. */
interface Trees {
  readonly key: string;
  readonly tally: Tally;
  readonly top: CallTree;
  readonly bottom: CallersTree;
}

/** Answers questions about the calls of one recording; keeps the last tree, as most questions are about the same lens. */
export class CallQueries {
  #trees: Trees | undefined;

  constructor(private readonly recording: Recording) {}

  page(lens: Lens, mode: CallsMode, expanded: ReadonlySet<string>, text: string, sort: CallSort): CallsPage {
    const { top, bottom, tally } = this.#treesOf(lens);
    const matches = this.#matcher(text);
    const seconds = this.#seconds(lens);
    const { calls: counted } = countedCalls(this.recording, lens.thread, lensRange(this.recording, lens));
    const isFine = this.recording.header.fine === true;
    const rows: CallRow[] = [];
    const push = ({ timed, ...row }: CountedRow) => {
      const isHit = matches?.(row.functionId) ?? false;
      const isQuick = !isFine && timed > 0 && (counted.get(row.functionId) ?? 0) > timed;
      const callsPerSecond = row.count / seconds;
      rows.push({ ...row, ...this.#named(row.functionId), isHit, isQuick, callsPerSecond });
    };
    const found = matches && top.search(matches);
    if (mode === 'top') this.#pushTree(top, expanded, found?.leads, push);
    else if (mode === 'bottom') this.#pushCallers(bottom, bottom.roots(), '', expanded, matches, push);
    else {
      for (const row of functionTable(this.recording, lens, tally)) {
        const { functionId, selfMs, totalMs } = row;
        if (matches !== undefined && !matches(functionId)) continue;
        push({
          key: String(functionId),
          functionId,
          depth: 0,
          selfMs,
          totalMs,
          count: callsOfRow(row),
          timed: row.count,
          hasChildren: false,
          isOpen: false,
        });
      }
    }
    return {
      rows: sortRows(rows, sort).slice(0, MAX_ROWS),
      cut: Math.max(0, rows.length - MAX_ROWS),
      isCounted: rows.some(({ count }) => count > 0),
      totalMs: top.totalMs,
      hitShare: found?.share,
    };
  }

  flame(
    lens: Lens,
    order: 'weight' | 'name',
    least: number,
    root: number | undefined,
    text: string,
  ): NamedFlame {
    const { top } = this.#treesOf(lens);
    const matches = this.#matcher(text);
    const boxes = flameLayout(this.recording, top, order, least, root).map((box) => ({
      ...box,
      ...this.#named(box.functionId),
      count: top.tally.counts[box.node]!,
      style: styleOfFunction(this.recording, box.functionId),
      isHit: matches?.(box.functionId) ?? false,
    }));
    const path = root === undefined ? [] : top.pathOf(root);
    return {
      boxes,
      path: path.map((node) => ({ node, name: this.#named(top.tally.nodes.functionOf(node)).name })),
      hitShare: matches && top.search(matches).share,
    };
  }

  /** Keys of the lines that lead to what took most time, from the first down; those of the tree from the top. */
  dearestPath(lens: Lens): DearestPath {
    const path = this.#treesOf(lens).top.dearestPath();
    return {
      keys: path.map(({ node }) => String(node)),
      functionId: path.at(-1)?.functionId,
    };
  }

  details(lens: Lens, functionId: number): FunctionDetails {
    const { startsMs, lengthsMs, exact, statistics } = occurrencesOf(this.recording, lens, functionId);
    const range = lensRange(this.recording, lens);
    const row = functionTable(this.recording, lens, this.#treesOf(lens).tally).find(
      (one) => one.functionId === functionId,
    );
    const { callers, callees } = focusOn(this.recording, lens, functionId);
    const named = (list: readonly Neighbour[]) =>
      list.slice(0, MAX_NEIGHBOURS).map((one) => ({ ...one, ...this.#named(one.functionId) }));
    return {
      functionId,
      ...this.#named(functionId),
      selfMs: row?.selfMs ?? 0,
      selfErrorMs: row?.selfErrorMs ?? 0,
      totalMs: row?.totalMs ?? 0,
      exact,
      statistics,
      histogram: histogramOf(lengthsMs),
      rate: {
        startMs: range.startMs,
        stepMs: (range.endMs - range.startMs) / RATE_STEPS,
        counts: [...rateOver(startsMs, range, RATE_STEPS)],
      },
      callers: named(callers),
      callees: named(callees),
    };
  }

  #treesOf(lens: Lens): Trees {
    const key = JSON.stringify(lens);
    if (this.#trees?.key !== key) {
      const tally = tallyCalls(this.recording, lens);
      this.#trees = { key, tally, top: new CallTree(tally), bottom: new CallersTree(tally) };
    }
    return this.#trees;
  }

  #seconds(lens: Lens): number {
    const { startMs, endMs } = lensRange(this.recording, lens);
    return Math.max(0.001, (endMs - startMs) / 1000);
  }

  #named(functionId: number): NamedFunction {
    const named = namedFunction(this.recording, functionId);
    return { ...named, place: shortPlace(named.place) };
  }

  #matcher(text: string): ((functionId: number) => boolean) | undefined {
    if (text === '') return undefined;
    const wanted = text.toLowerCase();
    const known = new Map<number, boolean>();
    return (functionId) => {
      let is = known.get(functionId);
      if (is === undefined) {
        const { name, place } = this.#named(functionId);
        known.set(functionId, (is = `${name} ${place}`.toLowerCase().includes(wanted)));
      }
      return is;
    };
  }

  #pushTree(
    tree: CallTree,
    expanded: ReadonlySet<string>,
    leads: ReadonlySet<number> | undefined,
    push: (row: CountedRow) => void,
  ): void {
    const add = (nodes: ReturnType<CallTree['roots']>, depth: number): void => {
      for (const { node, functionId, selfMs, totalMs, count, hasChildren } of nodes) {
        if (leads !== undefined && !leads.has(node)) continue;
        const key = String(node);
        const isOpen = hasChildren && (expanded.has(key) || leads !== undefined);
        push({ key, functionId, depth, selfMs, totalMs, count, timed: count, hasChildren, isOpen });
        if (isOpen) add(tree.children(node), depth + 1);
      }
    };
    add(tree.roots(), 0);
  }

  #pushCallers(
    tree: CallersTree,
    nodes: readonly CallerNode[],
    above: string,
    expanded: ReadonlySet<string>,
    matches: ((functionId: number) => boolean) | undefined,
    push: (row: CountedRow) => void,
  ): void {
    const depth = above.split('/').length - 1;
    for (const node of nodes) {
      const { functionId, selfMs, count, hasChildren } = node;
      if (depth === 0 && ((matches !== undefined && !matches(functionId)) || selfMs < 0.0005)) continue;
      const key = `${above}/${functionId}`;
      const isOpen = hasChildren && expanded.has(key);
      push({ key, functionId, depth, selfMs, totalMs: selfMs, count, timed: count, hasChildren, isOpen });
      if (isOpen) this.#pushCallers(tree, tree.callers(node), key, expanded, undefined, push);
    }
  }
}

/** Bounds grow by a third each, so that short and long calls both can be seen. */
const BOUNDS_A_DECADE = 4;

function histogramOf(lengthsMs: Float64Array): FunctionDetails['histogram'] {
  if (lengthsMs.length === 0) return { boundsMs: [], counts: [] };
  const place = (ms: number) => Math.ceil(Math.log10(Math.max(0.001, ms)) * BOUNDS_A_DECADE);
  let [first, last] = [Infinity, -Infinity];
  for (const ms of lengthsMs) {
    first = Math.min(first, place(ms));
    last = Math.max(last, place(ms));
  }
  const counts = new Array<number>(last - first + 1).fill(0);
  for (const ms of lengthsMs) counts[place(ms) - first]!++;
  const boundsMs = counts.map((_, index) => 10 ** ((first + index) / BOUNDS_A_DECADE));
  return { boundsMs, counts };
}
