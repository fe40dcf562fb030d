import { excessMs, type Sting } from './sting';
import { firstIndex } from '../statistics/search';

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
 * @param kinds in the order of precedence: what lies within one of an earlier kind becomes part of it
 */
export function mergeStings(stings: readonly Sting[], kinds: readonly string[]): Sting[] {
  const also = new Map<Sting, Set<string>>();
  let merged: Sting[] = [];
  for (const kind of kinds) {
    const hosts = new Hosts(merged.filter(({ extent }) => extent !== 'course'));
    const alone: Sting[] = [];
    for (const sting of stings.filter((candidate) => candidate.kind === kind)) {
      const found = sting.extent === 'course' ? [] : hosts.of(sting);
      if (found.length === 0) alone.push(sting);
      for (const host of found) also.set(host, (also.get(host) ?? new Set(host.also)).add(kind));
    }
    merged = [...merged, ...alone];
  }
  return merged.map((sting) => ({ ...sting, also: [...(also.get(sting) ?? sting.also)] }));
}

/**
 * Delays with somebody waiting first, then other delays, then what takes a part of each second, which is no delay; each
 * by what goes beyond the budget, then in order of time.
 */
export function rankStings(stings: readonly Sting[]): Sting[] {
  const waiting = ({ interaction, isRate }: Sting) => (interaction ? 0 : isRate ? 2 : 1);
  return [...stings].sort(
    (a, b) => waiting(a) - waiting(b) || excessMs(b) - excessMs(a) || a.startMs - b.startMs,
  );
}
