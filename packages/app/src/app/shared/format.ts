import { isTime, weightText } from '@nettle-patch/core';

const KIB = 1024;

/** A duration with its unit: "312 ms", "1.24 s", "2 min 5 s". */
export function formatDuration(ms: number): string {
  if (ms < 1000) return `${Math.round(ms)} ms`;
  if (ms < 10_000) return `${(ms / 1000).toFixed(2)} s`;
  if (ms < 60_000) return `${(ms / 1000).toFixed(1)} s`;
  return `${Math.floor(ms / 60_000)} min ${Math.floor((ms % 60_000) / 1000)} s`;
}

/** Milliseconds with as many digits as can be told apart: "0.41 ms", "312.5 ms". */
export function formatMs(ms: number): string {
  return `${ms < 10 ? ms.toFixed(2) : ms.toFixed(1)} ms`;
}

/** What calls took, in the unit of the recording: "312.5 ms", "30 samples". */
export function formatWeight(value: number, unit: string): string {
  return isTime(unit) ? formatMs(value) : weightText(value, unit);
}

/** Elapsed time as a running clock: "0:07.3". */
export function formatClock(ms: number): string {
  const tenths = Math.floor(ms / 100);
  const seconds = String(Math.floor(tenths / 10) % 60).padStart(2, '0');
  return `${Math.floor(tenths / 600)}:${seconds}.${tenths % 10}`;
}

export function formatBytes(bytes: number): string {
  if (bytes < KIB) return `${bytes} B`;
  if (bytes < KIB * KIB) return `${(bytes / KIB).toFixed(0)} kB`;
  if (bytes < KIB * KIB * KIB) return `${(bytes / KIB / KIB).toFixed(1)} MB`;
  return `${(bytes / KIB / KIB / KIB).toFixed(1)} GB`;
}

export function formatPercent(share: number): string {
  const percent = share * 100;
  return `${percent > 0 && percent < 1 ? percent.toFixed(1) : Math.round(percent)} %`;
}

/** A point in time as people say it: "24 Nov 2026, 03:15". */
export function formatDate(iso: string): string {
  return new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}
