import { excessMs, type Sting, type StingKind } from './sting';

const PRECEDENCE: readonly StingKind[] = ['slow-response', 'hang', 'long-task'];

function overlapMs(a: Sting, b: Sting): number {
  return Math.min(a.endMs, b.endMs) - Math.max(a.startMs, b.startMs);
}

/**
 * Merges stings at the same place into the one a person would name: a hang or long task most of which lies
 * within a slow response becomes part of it, and the response says so.
 */
export function mergeStings(stings: readonly Sting[]): Sting[] {
  const byPrecedence = [...stings].sort(
    (a, b) => PRECEDENCE.indexOf(a.kind) - PRECEDENCE.indexOf(b.kind) || excessMs(b) - excessMs(a),
  );
  const merged: Sting[] = [];
  for (const sting of byPrecedence) {
    const hosts = merged.filter(
      (candidate) =>
        candidate.thread === sting.thread &&
        candidate.kind !== sting.kind &&
        overlapMs(candidate, sting) > (sting.endMs - sting.startMs) / 2,
    );
    if (hosts.length === 0) merged.push(sting);
    for (const host of hosts) {
      const also = new Set([...host.also, sting.kind]);
      merged[merged.indexOf(host)] = { ...host, also: [...also] };
    }
  }
  return merged;
}

/** Those with somebody waiting first, then by the time beyond the budget, then in order of time. */
export function rankStings(stings: readonly Sting[]): Sting[] {
  const waiting = (sting: Sting) => (sting.interaction ? 0 : 1);
  return [...stings].sort(
    (a, b) => waiting(a) - waiting(b) || excessMs(b) - excessMs(a) || a.startMs - b.startMs,
  );
}
