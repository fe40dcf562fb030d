import { displayName, isBound, type RecordedFunction } from './functions';
import { memoizedPerRecording } from './memoize';
import { callsOf, type Recording } from './recording';

/**
 * What two rows of the same function have in common, from what tells it apart from all others: the position of its start
 * in the original source, or else in the script as it ran. A place inside a function is none of its start.
 */
function keyOf(recorded: RecordedFunction, sources: Recording['sources']): string | undefined {
  const { originalFile, originalLine, originalColumn, originalName, name, source, line, column } = recorded;
  if (recorded.place === true) return undefined;
  if (originalFile !== undefined && originalLine !== undefined && originalColumn !== undefined) {
    return `${originalFile}\n${originalLine}\n${originalColumn}\n${originalName ?? name}`;
  }
  if (source === undefined || line === undefined || column === undefined) return undefined;
  return `${sources.get(source)?.url ?? source}\n${line}\n${column}`;
}

/**
 * For each function that was met under several ids the one id that stands for all of them, settled once when a recording
 * is opened: as rows say, where two have the same file, name and position of their start, where one is only known by
 * entries that begin with a call of the other, and where it is bound and no other with a place has its name. Ids that
 * stand for themselves are left out.
 */
export const functionIdentities = memoizedPerRecording((recording): ReadonlyMap<number, number> => {
  const { functions, sources } = recording;
  const parents = new Map<number, number>();
  const rootOf = (id: number): number => {
    let root = id;
    for (let next = parents.get(root); next !== undefined; next = parents.get(root)) root = next;
    for (let at = id; at !== root;) {
      const next = parents.get(at)!;
      parents.set(at, root);
      at = next;
    }
    return root;
  };
  const firstWith = new Map<string, number>();
  const join = (id: number, to: number) => {
    const [a, b] = [rootOf(id), rootOf(to)];
    if (a !== b) parents.set(a, b);
  };
  for (const recorded of functions.values()) {
    if (recorded.sameAs !== undefined && functions.has(recorded.sameAs)) join(recorded.id, recorded.sameAs);
    const key = keyOf(recorded, sources);
    const first = key === undefined ? undefined : firstWith.get(key);
    if (first !== undefined) join(recorded.id, first);
    else if (key !== undefined) firstWith.set(key, recorded.id);
  }
  for (const [id, called] of enteredAs(recording)) join(id, called);
  const placed = new Map<string, Set<number>>();
  for (const id of firstWith.values()) {
    const name = displayName(functions.get(id));
    placed.set(name, (placed.get(name) ?? new Set()).add(rootOf(id)));
  }
  for (const recorded of functions.values()) {
    const [only, ...others] = isBound(recorded) ? (placed.get(displayName(recorded)) ?? []) : [];
    if (only !== undefined && others.length === 0) join(recorded.id, only);
  }
  return new Map([...parents.keys()].map((id) => [id, rootOf(id)]));
});

/** An entry and the call of the function entered begin this close to each other. Microseconds. */
const SAME_START_US = 500;
/** Of the entries looked at, the share that must begin with the call; a thread may have been held up between both. */
const MIN_AGREED_SHARE = 0.5;
/** So many entries are looked at for each function. */
const MAX_LOOKED_AT = 50;

/**
 * Functions that an entry into script names by themselves only, without their place, and that are known by exact calls:
 * those whose entries begin with a call of one and the same function, which has no other name, and of no other.
 */
function enteredAs(recording: Recording): Map<number, number> {
  const { functions, stacks, events } = recording;
  const { handler } = events;
  const { function: entries, startMs, thread } = handler.columns;
  const called = new Map<number, number>();
  const looked = new Map<number, number>();
  const agreed = new Map<number, number>();
  const refused = new Set<number>();
  for (let at = 0; at < handler.length; at++) {
    const entry = entries[at]!;
    const recorded = functions.get(entry);
    if (recorded === undefined || recorded.line !== undefined || refused.has(entry)) continue;
    const times = looked.get(entry) ?? 0;
    const calls = callsOf(recording, thread[at]!);
    if (times >= MAX_LOOKED_AT || calls.length === 0) continue;
    looked.set(entry, times + 1);
    const index = calls.firstFrom(startMs[at]! * 1000 - SAME_START_US);
    const isFirst = index < calls.length && calls.startsUs[index]! <= startMs[at]! * 1000 + SAME_START_US;
    const id = isFirst && calls.depths[index] === 0 ? stacks.functionOf(calls.stacks[index]!) : undefined;
    if (id === undefined) continue;
    const before = called.get(entry);
    const name = displayName(functions.get(id));
    const fits = id !== entry && (recorded.name === '' || displayName(recorded) === name);
    if (!fits || (before !== undefined && before !== id)) {
      refused.add(entry);
      called.delete(entry);
      continue;
    }
    called.set(entry, id);
    agreed.set(entry, (agreed.get(entry) ?? 0) + 1);
  }
  const isSure = (entry: number) => agreed.get(entry)! >= looked.get(entry)! * MIN_AGREED_SHARE;
  return new Map([...called].filter(([entry]) => isSure(entry)));
}
