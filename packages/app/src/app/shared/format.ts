import { isTime, msText, weightText } from '@nettle-patch/core';

/** What calls took, in the unit of the recording: "312.5 ms", "30 samples". */
export function formatWeight(value: number, unit: string): string {
  return isTime(unit) ? msText(value) : weightText(value, unit);
}

/** A point in time as the person's language has it: "24 Nov 2026, 03:15". */
export function formatDate(iso: string): string {
  return new Date(iso).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
}
