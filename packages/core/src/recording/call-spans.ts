import { CALL_END, type CallEvents } from '../format/packed-calls';
import type { StackTable } from './stack-table';
import { firstIndex } from '../statistics/search';

/** Columns of call spans, all of one length, in order of start; callers stand before what they call. */
export interface CallColumns {
  /** Whole microseconds from the start of the recording. */
  readonly startsUs: Float64Array;
  readonly endsUs: Float64Array;
  /** Stack of each call, whose innermost function is the one called. */
  readonly stacks: Int32Array;
  /** Number of calls around it. */
  readonly depths: Uint16Array;
}

/** The exact calls of one thread. */
export class CallSpans implements CallColumns {
  readonly startsUs: Float64Array;
  readonly endsUs: Float64Array;
  readonly stacks: Int32Array;
  readonly depths: Uint16Array;

  constructor(columns: CallColumns) {
    this.startsUs = columns.startsUs;
    this.endsUs = columns.endsUs;
    this.stacks = columns.stacks;
    this.depths = columns.depths;
  }

  #roots: Uint32Array | undefined;
  #parentIndexes: Int32Array | undefined;

  /** Indexes of the calls that nothing called. */
  get roots(): Uint32Array {
    if (this.#roots === undefined) {
      const { depths } = this;
      const roots: number[] = [];
      for (let at = 0; at < depths.length; at++) if (depths[at] === 0) roots.push(at);
      this.#roots = Uint32Array.from(roots);
    }
    return this.#roots;
  }

  static none(): CallSpans {
    return new CallSpans({
      startsUs: new Float64Array(0),
      endsUs: new Float64Array(0),
      stacks: new Int32Array(0),
      depths: new Uint16Array(0),
    });
  }

  get length(): number {
    return this.startsUs.length;
  }

  /** Index of the first call that begins at or after a time; `length` when there is none. */
  firstFrom(us: number): number {
    return firstIndex(this.length, (at) => this.startsUs[at]! >= us);
  }

  /** Calls that run at a time and began before it, the outermost first. */
  openAt(us: number): number[] {
    const open: number[] = [];
    const parents = this.#parents();
    for (let at = this.firstFrom(us) - 1; at >= 0; at = parents[at]!)
      if (this.endsUs[at]! > us) open.push(at);
    return open.reverse();
  }

  /** Index of the call around each, or -1; worked out when first asked for. */
  #parents(): Int32Array {
    if (this.#parentIndexes === undefined) {
      const { depths } = this;
      const parents = new Int32Array(depths.length);
      const open: number[] = [];
      for (let at = 0; at < depths.length; at++) {
        const depth = depths[at]!;
        parents[at] = depth === 0 ? -1 : open[depth - 1]!;
        open[depth] = at;
      }
      this.#parentIndexes = parents;
    }
    return this.#parentIndexes;
  }

  /**
   * Walks through a range of time and tells for each stretch with a call in it the stack of the innermost one.
   * @param visit is called in order of time; times are milliseconds
   */
  innermost(
    startMs: number,
    endMs: number,
    visit: (startMs: number, endMs: number, stack: number) => void,
  ): void {
    const { startsUs, endsUs, stacks } = this;
    const [startUs, endUs] = [startMs * 1000, endMs * 1000];
    const open = this.openAt(startUs);
    const last = this.firstFrom(endUs);
    let next = this.firstFrom(startUs);
    let atUs = startUs;
    let innermost = open.pop() ?? -1;
    let closesUs = innermost < 0 ? Infinity : endsUs[innermost]!;
    while (next < last || innermost >= 0) {
      const beginsUs = next < last ? startsUs[next]! : endUs;
      if (innermost >= 0 && (closesUs <= beginsUs || next >= last)) {
        const toUs = closesUs < endUs ? closesUs : endUs;
        if (toUs > atUs) visit(atUs / 1000, toUs / 1000, stacks[innermost]!);
        if (closesUs >= endUs) return;
        atUs = closesUs;
        innermost = open.pop() ?? -1;
        closesUs = innermost < 0 ? Infinity : endsUs[innermost]!;
      } else {
        if (innermost >= 0) {
          if (beginsUs > atUs) visit(atUs / 1000, beginsUs / 1000, stacks[innermost]!);
          open.push(innermost);
        }
        atUs = beginsUs;
        innermost = next;
        closesUs = endsUs[next++]!;
      }
    }
  }

  /** Calls a visitor with the index of each call that overlaps a range, in order of start. Microseconds. */
  eachOverlapping(startUs: number, endUs: number, visit: (index: number) => void): void {
    this.openAt(startUs).forEach(visit);
    const last = this.firstFrom(endUs);
    for (let index = this.firstFrom(startUs); index < last; index++) visit(index);
  }

  /** Calls of a range that nothing called, in order of time; times are milliseconds, cut to the range. */
  outermost(startMs: number, endMs: number, visit: (startMs: number, endMs: number) => void): void {
    const [startUs, endUs] = [startMs * 1000, endMs * 1000];
    const [running] = this.openAt(startUs);
    if (running !== undefined) visit(startMs, Math.min(this.endsUs[running]! / 1000, endMs));
    for (const at of this.roots) {
      const fromUs = this.startsUs[at]!;
      if (fromUs >= endUs) return;
      if (fromUs >= startUs) visit(fromUs / 1000, Math.min(this.endsUs[at]! / 1000, endMs));
    }
  }

  /**
   * The calls as events, as packed chunks carry them.
   * @param most events a part
   */
  *events(stacks: StackTable, most: number): Generator<CallEvents> {
    let timesUs: number[] = [];
    let functions: number[] = [];
    const open: number[] = [];
    for (let at = 0; at <= this.length; at++) {
      const depth = at < this.length ? this.depths[at]! : 0;
      while (open.length > depth) {
        timesUs.push(this.endsUs[open.pop()!]!);
        functions.push(CALL_END);
      }
      if (at === this.length) break;
      open.push(at);
      timesUs.push(this.startsUs[at]!);
      functions.push(stacks.functionOf(this.stacks[at]!));
      if (timesUs.length < most) continue;
      yield { timesUs, functions };
      timesUs = [];
      functions = [];
    }
    if (timesUs.length > 0) yield { timesUs, functions };
  }
}
