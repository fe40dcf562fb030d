import type { Batch, Command } from './protocol';

/** A batch of rows as one text frame: the envelope, then the lines. */
export function writeBatch(batch: Batch, lines: string): string {
  return `${JSON.stringify(batch)}\n${lines}`;
}

/**
 * A command as a page takes it, which the server has checked. Kept apart from the checks, so that they are no part of what
 * is put into pages.
 * @returns undefined where it is none
 */
export function readCommand(text: string): Command | undefined {
  const command = JSON.parse(text) as Partial<Command> | null;
  return typeof command?.type === 'string' && typeof command.recordingId === 'string'
    ? (command as Command)
    : undefined;
}
