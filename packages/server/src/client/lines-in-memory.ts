import type { RecordingSink } from '@nettle-patch/core';

/** Keeps the lines of a recording in memory. */
export class LinesInMemory implements RecordingSink {
  readonly lines: string[] = [];
  lastMs = 0;

  get hasBegun(): boolean {
    return this.lines.length > 0;
  }

  append(lines: readonly string[]): Promise<void> {
    for (const line of lines) {
      this.lines.push(line);
      this.lastMs = Math.max(this.lastMs, startOf(line));
    }
    return Promise.resolve();
  }

  pieces(): Promise<Iterable<Uint8Array>> {
    const encoder = new TextEncoder();
    return Promise.resolve(this.lines.map((line) => encoder.encode(`${line}\n`)));
  }

  finish(): Promise<void> {
    return Promise.resolve();
  }

  isFull(): boolean {
    return false;
  }
}

/** When a row began; 0 where it tells of no time, or is none. */
function startOf(line: string): number {
  try {
    const row = JSON.parse(line) as { startMs?: unknown } | null;
    return typeof row?.startMs === 'number' ? row.startMs : 0;
  } catch {
    return 0;
  }
}
