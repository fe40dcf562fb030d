import { STING_KINDS, excessMs, type Sting, type StingKind } from './sting';
import { firstIndex } from '../recording/search';

/** Kinds that tell of a whole stretch of use: what lies within is not explained by them. */
const NO_HOSTS = new Set<StingKind>(['creep', 'idle-work', 'slow-outcome']);
/** Kinds that are never part of another: they are about what goes on, not about one moment. */
const NEVER_MERGED = new Set<StingKind>(['creep', 'idle-work', 'slow-outcome']);

function overlapMs(a: Sting, b: Sting): number {
  return Math.min(a.endMs, b.endMs) - Math.max(a.startMs, b.startMs);
}

/** Stings that others may be merged into, found by their place. */
class Hosts {
  readonly #sorted: readonly Sting[];
  readonly #longestMs: number;

  constructor(stings: readonly Sting[]) {
    this.#sorted = [...stings].sort((a, b) => a.startMs - b.startMs);
    this.#longestMs = stings.reduce((most, { startMs, endMs }) => Math.max(most, endMs - startMs), 0);
  }

  /** Those within which most of a sting lies. */
  of(sting: Sting): Sting[] {
    const found: Sting[] = [];
    const earliestMs = sting.startMs - this.#longestMs;
    const first = firstIndex(this.#sorted.length, (at) => this.#sorted[at]!.startMs >= earliestMs);
    for (let at = first; at < this.#sorted.length && this.#sorted[at]!.startMs < sting.endMs; at++) {
      const host = this.#sorted[at]!;
      const most = (sting.endMs - sting.startMs) / 2;
      if (host.thread === sting.thread && overlapMs(host, sting) > most) found.push(host);
    }
    return found;
  }
}

/**
 * Merges stings at the same place into the one a person would name: a hang or long task most of which lies
 * within a slow response becomes part of it, and the response says so.
 */
export function mergeStings(stings: readonly Sting[]): Sting[] {
  const also = new Map<Sting, Set<StingKind>>();
  let merged: Sting[] = [];
  for (const kind of STING_KINDS) {
    const hosts = new Hosts(merged.filter((host) => !NO_HOSTS.has(host.kind) && !NEVER_MERGED.has(kind)));
    const alone: Sting[] = [];
    for (const sting of stings.filter((candidate) => candidate.kind === kind)) {
      const found = hosts.of(sting);
      if (found.length === 0) alone.push(sting);
      for (const host of found) also.set(host, (also.get(host) ?? new Set(host.also)).add(kind));
    }
    merged = [...merged, ...alone];
  }
  return merged.map((sting) => ({ ...sting, also: [...(also.get(sting) ?? sting.also)] }));
}

/** Those with somebody waiting first, then by the time beyond the budget, then in order of time. */
export function rankStings(stings: readonly Sting[]): Sting[] {
  const waiting = (sting: Sting) => (sting.interaction ? 0 : 1);
  return [...stings].sort(
    (a, b) => waiting(a) - waiting(b) || excessMs(b) - excessMs(a) || a.startMs - b.startMs,
  );
}
