import { numberText, type Recording, type TimeRange } from '@nettle-patch/core';
import { FileError } from './read-recording';

/** Flags that set a range, in milliseconds from the start of the recording. */
export interface RangeFlags {
  readonly from?: string;
  readonly to?: string;
}

/** @throws FileError where it is no number */
export function numberFrom(text: string | undefined, what: string, usual: number): number {
  if (text === undefined) return usual;
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value))
    throw new FileError(`${what} takes a number, got "${text}".`);
  return value;
}

/** The range that flags ask for; undefined where none does. @throws FileError where it makes no sense */
export function rangeFrom({ range }: Recording, { from, to }: RangeFlags): TimeRange | undefined {
  if (from === undefined && to === undefined) return undefined;
  const startMs = numberFrom(from, '--from', range.startMs);
  const endMs = numberFrom(to, '--to', range.endMs);
  const length = `the recording is ${numberText(range.endMs)} ms long`;
  if (endMs <= startMs)
    throw new FileError(
      `--from ${numberText(startMs)} does not lie before --to ${numberText(endMs)}; ${length}.`,
    );
  if (startMs >= range.endMs || endMs <= range.startMs)
    throw new FileError(
      `Nothing was recorded from ${numberText(startMs)} to ${numberText(endMs)} ms; ${length}.`,
    );
  return { startMs, endMs };
}
