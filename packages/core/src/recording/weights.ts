import type { Header } from '../format/header';
import { decimalText, numberText } from '../words/figures';

/** What a recording without times of its own counts, where it does not say so. */
const UNKNOWN_UNIT = 'counts';
const TIME = 'ms';

/** The unit of what calls took in a recording: "ms", or what the stacks of another format carry. */
export function weightUnit({ weightUnit: unit, timeless }: Pick<Header, 'weightUnit' | 'timeless'>): string {
  return unit ?? (timeless === true ? UNKNOWN_UNIT : TIME);
}

export function isTime(unit: string): boolean {
  return unit === TIME;
}

/** A weight with its unit, to the digit that means something: "12.5 ms", "30 samples". */
export function weightText(value: number, unit: string): string {
  if (isTime(unit)) return `${decimalText(value, 1)} ms`;
  return `${numberText(value)} ${unit}`;
}
