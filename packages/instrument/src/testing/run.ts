import { createContext, runInContext } from 'node:vm';
import {
  COUNTS,
  COUNT_SLOTS,
  ENTER,
  ENTER_AGAIN,
  ENTER_FINE,
  LEAVE,
  LEAVE_EXPRESSION,
  LEAVE_ROOT,
  LEAVE_ROOT_EXPRESSION,
  LEAVE_WAITING,
  LEAVE_WAITING_EXPRESSION,
  LOOK,
  LOOK_AT_CALL,
  LOOK_COUNTDOWN,
  LOOKS_TAKEN,
  OPEN_CALLS,
  OPEN_CALLS_LENGTH,
  REGISTER,
  lineReached,
  slotOf,
  withoutInsertions,
} from '@nettle-patch/core';

/** Between two looks, in nodes: so few that all looks are taken now and then. */
const BETWEEN_LOOKS = 4;

/** A run of a script in a world of its own. */
export interface Run {
  /** What the script left in `result`, as text. */
  readonly result: string;
  /** Ids of functions entered, in order. */
  readonly entered: readonly number[];
  /** Calls left open at the end. */
  readonly open: number;
  /** How often a leave came without an enter. */
  readonly tooMany: number;
  readonly registered: readonly string[];
  /** Of a script in fine mode, calls by id, and positions that a look saw the innermost call at. */
  readonly counts: ReadonlyMap<number, number>;
  readonly seen: ReadonlySet<number>;
  /** By each name that `here` was called with, the position of the innermost call then; with `above`, of the one around it. */
  readonly heres: ReadonlyMap<string, number>;
}

/**
 * Runs a script, rewritten or not, and tells what it did.
 * @param takesLooks whether it is to look, in fine mode
 */
export async function runScript(code: string, takesLooks = true): Promise<Run> {
  const context = createContext({ result: undefined, console });
  const entered: number[] = [];
  const registered: string[] = [];
  let open = 0;
  let tooMany = 0;
  const leave = () => {
    if (open === 0) tooMany++;
    else open--;
    return 0;
  };
  const calls = new Int32Array(OPEN_CALLS_LENGTH);
  const countSlots = new Int32Array(COUNT_SLOTS);
  const seen = new Set<number>();
  const heres = new Map<string, number>();
  const noted = (up: number) => (name: string, value: unknown) => {
    heres.set(name, calls[calls[0]! - up]!);
    return value;
  };
  const look = (...lines: number[]) => {
    if (lines.length > 0) calls[calls[0]!] = lineReached(lines, -calls[LOOK_COUNTDOWN]!);
    // Not the same each time: what is reached between two looks would be.
    calls[LOOK_COUNTDOWN] = BETWEEN_LOOKS + (seen.size % 3);
    seen.add(calls[calls[0]!]!);
  };
  const enter = (id: number, position: number) => {
    countSlots[slotOf(id)]!++;
    calls[++calls[0]!] = position;
    return calls[0];
  };
  const leaveWaiting = () => {
    if (calls[0] === 0) tooMany++;
    else calls[0]!--;
    return 0;
  };
  Object.assign(context, {
    [OPEN_CALLS]: calls,
    [COUNTS]: countSlots,
    here: noted(0),
    above: noted(1),
    [LOOKS_TAKEN]: takesLooks,
    [LOOK]: look,
    [LOOK_AT_CALL]: (id: number) => {
      countSlots[slotOf(id)] = 2;
    },
    [LEAVE_ROOT]: () => undefined,
    [LEAVE_ROOT_EXPRESSION]: () => undefined,
    [ENTER_FINE]: (id: number) => enter(id, id),
    [ENTER_AGAIN]: enter,
    [LEAVE_WAITING]: leaveWaiting,
    [LEAVE_WAITING_EXPRESSION]: leaveWaiting,
    [ENTER]: (id: number) => {
      entered.push(id);
      open++;
      return 1;
    },
    [LEAVE]: leave,
    [LEAVE_EXPRESSION]: leave,
    [REGISTER]: (_id: number, told: string) => registered.push(told),
    withoutInsertions,
  });
  runInContext(
    `{ const text = Function.prototype.toString;
       Function.prototype.toString = { toString() { return withoutInsertions(text.call(this)); } }.toString; }`,
    context,
  );
  runInContext(code, context);
  const result: unknown = await (context as { result: unknown }).result;
  const counts = new Map<number, number>();
  countSlots.forEach((count, slot) => {
    if (count > 0) counts.set(slot, count);
  });
  return {
    result: describe(result),
    entered,
    open: calls[0]! || open,
    tooMany,
    registered,
    counts,
    seen,
    heres,
  };
}

function describe(value: unknown): string {
  return JSON.stringify(value, (_key, item: unknown) =>
    item === undefined ? 'undefined' : typeof item === 'function' ? String(item) : item,
  );
}
