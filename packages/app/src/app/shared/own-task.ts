const waiting: (() => void)[] = [];

function next(): void {
  waiting.shift()?.();
  if (waiting.length > 0) setTimeout(next);
}

/** Does work in a task of its own, after what was asked for before: many pieces never hold up an input together. */
export function inOwnTask(work: () => void): void {
  waiting.push(work);
  if (waiting.length === 1) setTimeout(next);
}
