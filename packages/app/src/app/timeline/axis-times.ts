import { secondsText, decimalText } from '@nettle-patch/core';
import { axisStep, type TimeScale } from '../shared/time-scale';

/** In what times of a stretch are told, and with how many digits. */
export interface TimeUnit {
  readonly seconds: boolean;
  readonly digits: number;
}

const BETWEEN_TIMES_PIXELS = 90;

export function unitOf(lengthMs: number): TimeUnit {
  if (lengthMs >= 20_000) return { seconds: true, digits: 0 };
  if (lengthMs >= 2000) return { seconds: true, digits: 1 };
  if (lengthMs >= 200) return { seconds: true, digits: 2 };
  return { seconds: false, digits: lengthMs >= 20 ? 0 : lengthMs >= 2 ? 1 : 2 };
}

export function timeWords(ms: number, { seconds, digits }: TimeUnit): string {
  return seconds ? secondsText(ms, digits) : `${decimalText(ms, digits)} ms`;
}

/** Round times within a scale. */
export function roundTimes(scale: TimeScale): number[] {
  const stepMs = axisStep(scale, BETWEEN_TIMES_PIXELS);
  const times: number[] = [];
  for (let ms = Math.ceil(scale.startMs / stepMs) * stepMs; ms <= scale.endMs; ms += stepMs) times.push(ms);
  return times;
}
