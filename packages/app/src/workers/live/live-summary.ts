import { type Row, unpackSamples, actionLabel, actionOf } from '@nettle-patch/core';
import { LiveHangs } from './live-hang';
import { LiveTasks } from './live-tasks';
import type { LiveHang, LiveInput, LiveTask } from './live-state';

const STEP_MS = 250;
const HISTORY_STEPS = 160;
const SHOWN_INPUTS = 40;
/** Nothing is taken to be busy for longer, whatever a page may claim. */
const MAX_BUSY_MS = 600_000;
const STEPS_A_SECOND = 1000 / STEP_MS;

/** Events that begin or complete something a person did; the others of an interaction are not listed. */
const LISTED = new Set(['click', 'keydown', 'pointerdown', 'drop']);

/** Sums up rows as they come: what is worth seeing while a recording runs. */
export class LiveSummary {
  /** Busy milliseconds by step from the start. */
  readonly #busyMs = new Map<number, number>();
  readonly #inputs = new Map<string, LiveInput>();
  readonly #hangs = new LiveHangs();
  readonly #tasks = new LiveTasks();
  #lastMs: number;
  #costMs = 0;
  #costSpanMs = 0;

  /** @param lastMs how far the recording reaches already, when this goes on with one */
  constructor(lastMs = 0) {
    this.#lastMs = lastMs;
  }

  get lastMs(): number {
    return this.#lastMs;
  }

  get costShare(): number {
    return this.#costSpanMs === 0 ? 0 : this.#costMs / this.#costSpanMs;
  }

  get hang(): LiveHang | undefined {
    return this.#hangs.now();
  }

  take(row: Row): void {
    this.#hangs.take(row);
    this.#tasks.take(row);
    switch (row.kind) {
      case 'samples':
        this.#samples(row);
        break;
      case 'task':
        this.#busy(row.startMs, row.startMs + row.durationMs);
        break;
      case 'input':
        this.#input(row);
        break;
      case 'cost':
        this.#costMs += row.busyMs;
        this.#costSpanMs += row.durationMs;
        break;
      default:
        break;
    }
    if ('startMs' in row) this.#reach(row.startMs + ('durationMs' in row ? (row.durationMs ?? 0) : 0));
  }

  /** The latest inputs, newest first; one for each interaction, with its longest delay. */
  inputs(): LiveInput[] {
    return [...this.#inputs.values()].sort((a, b) => b.startMs - a.startMs).slice(0, SHOWN_INPUTS);
  }

  /** The latest long tasks, newest first. */
  tasks(): readonly LiveTask[] {
    return this.#tasks.latest();
  }

  /** Busy share of each step up to the latest, oldest first. */
  history(): number[] {
    const last = Math.floor(this.#lastMs / STEP_MS);
    const first = Math.max(0, last - HISTORY_STEPS);
    return Array.from({ length: last - first }, (_, index) => this.#share(first + index));
  }

  busyShare(): number {
    const recent = this.history().slice(-STEPS_A_SECOND);
    return recent.length === 0 ? 0 : recent.reduce((sum, share) => sum + share, 0) / recent.length;
  }

  #share(step: number): number {
    return Math.min(1, (this.#busyMs.get(step) ?? 0) / STEP_MS);
  }

  #samples(row: Extract<Row, { kind: 'samples' }>): void {
    const { timesUs, stacks } = unpackSamples(row);
    timesUs.forEach((timeUs, index) => {
      const startMs = timeUs / 1000;
      const nextMs = (timesUs[index + 1] ?? timeUs + row.intervalMs * 1000) / 1000;
      if (stacks[index]! >= 0) this.#busy(startMs, Math.min(nextMs, startMs + 2 * row.intervalMs));
      this.#reach(startMs);
    });
  }

  /** Adds busy time; tasks and samples may both tell of it, so a step is never more than full. */
  #busy(startMs: number, claimedEndMs: number): void {
    const endMs = Math.min(claimedEndMs, startMs + MAX_BUSY_MS);
    for (let step = Math.floor(startMs / STEP_MS); step * STEP_MS < endMs; step++) {
      const overlap = Math.min(endMs, (step + 1) * STEP_MS) - Math.max(startMs, step * STEP_MS);
      this.#busyMs.set(step, Math.min(STEP_MS, (this.#busyMs.get(step) ?? 0) + Math.max(0, overlap)));
    }
  }

  #input(row: Extract<Row, { kind: 'input' }>): void {
    const { belowMs } = row;
    if (!row.interaction && belowMs === undefined) return;
    const key = row.interaction ? `#${row.interaction}` : `${row.type} ${row.startMs}`;
    const feltMs = belowMs ?? row.durationMs;
    const known = this.#inputs.get(key);
    const longer = known === undefined || feltMs > known.feltMs;
    if (!longer && !LISTED.has(row.type)) return;
    const target = row.target ?? '';
    const label = actionLabel(actionOf(row.type, target), target);
    this.#inputs.set(key, {
      startMs: known?.startMs ?? row.startMs,
      label: target === '' && known !== undefined ? known.label : label,
      feltMs: longer ? feltMs : known.feltMs,
      measured: belowMs === undefined,
    });
    const oldest = this.#inputs.keys().next().value;
    if (this.#inputs.size > 4 * SHOWN_INPUTS && oldest !== undefined) this.#inputs.delete(oldest);
  }

  #reach(ms: number): void {
    this.#lastMs = Math.max(this.#lastMs, ms);
  }
}
