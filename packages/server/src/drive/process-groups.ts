import { readFileSync, readdirSync } from 'node:fs';

interface Process {
  readonly pid: number;
  readonly parent: number;
  readonly group: number;
}

/** A process as Linux tells of it in /proc (proc(5), stat); undefined where it has ended. */
function processOf(pid: number): Process | undefined {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name of the program stands in brackets and may hold anything.
    const [, parent, group] = text.slice(text.lastIndexOf(')') + 2).split(' ');
    return { pid, parent: Number(parent), group: Number(group) };
  } catch {
    return undefined;
  }
}

/** The process groups of a program and of all it has started, however deep. Its own alone where there is no /proc. */
export function groupsOf(pid: number): number[] {
  let all: Process[];
  try {
    all = readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name))
      .flatMap((name) => processOf(Number(name)) ?? []);
  } catch {
    return [pid];
  }
  const found = new Set([pid]);
  const groups = new Set([pid]);
  for (let before = 0; before < found.size;) {
    before = found.size;
    for (const { pid: one, parent, group } of all) {
      if (!found.has(parent) && !groups.has(group)) continue;
      found.add(one);
      groups.add(group);
    }
  }
  return [...groups];
}

/** Signals process groups. @returns those that it did not reach: they have ended, or never were */
export function signalGroups(groups: readonly number[], signal: NodeJS.Signals): number[] {
  return groups.filter((group) => {
    try {
      process.kill(-group, signal);
      return false;
    } catch {
      return true;
    }
  });
}
