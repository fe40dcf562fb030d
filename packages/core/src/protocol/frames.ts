import type { Batch } from './protocol';

/** A batch of rows as one text frame: the envelope, then the lines. */
export function writeBatch(batch: Batch, lines: string): string {
  return `${JSON.stringify(batch)}\n${lines}`;
}

/** Whether a frame holds rows; a look at its beginning is enough. */
export function isBatch(frame: string): boolean {
  return frame.startsWith('{"type":"rows"');
}
