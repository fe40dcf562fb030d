import { createContext, runInContext } from 'node:vm';
import { ENTER, LEAVE, LEAVE_EXPRESSION, REGISTER, withoutInsertions } from '@nettle-patch/core';

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
}

/** Runs a script, rewritten or not, and tells what it did. */
export async function runScript(code: string): Promise<Run> {
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
  Object.assign(context, {
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
  return { result: describe(result), entered, open, tooMany, registered };
}

function describe(value: unknown): string {
  return JSON.stringify(value, (_key, item: unknown) =>
    item === undefined ? 'undefined' : typeof item === 'function' ? String(item) : item,
  );
}
