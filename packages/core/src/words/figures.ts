/** How figures are written, wherever people read them. */

const KIB = 1024;

/** A number of things: "1,200". */
export function countText(value: number): string {
  return Math.round(value).toLocaleString('en');
}

/** So many of something whose plural ends with "s": "1 call", "1,200 calls". */
export function countedText(value: number, one: string): string {
  return `${countText(value)} ${one}${value === 1 ? '' : 's'}`;
}

/** A number as it is, with at most so many digits behind the point: "1,200.5". */
export function numberText(value: number, digits = 3): string {
  return Number(value.toFixed(digits)).toLocaleString('en');
}

/** A moment, or a length of some seconds: "1.25 s". */
export function secondsText(ms: number, digits = 2): string {
  return `${(ms / 1000).toFixed(digits)} s`;
}

/** Milliseconds with as many digits as can be told apart, without the unit: "0.41", "312.5", "1,240". */
export function msFigure(ms: number): string {
  return ms < 10 ? ms.toFixed(2) : ms < 1000 ? ms.toFixed(1) : countText(ms);
}

/** Milliseconds with as many digits as can be told apart: "0.41 ms", "312.5 ms". */
export function msText(ms: number): string {
  return `${msFigure(ms)} ms`;
}

/** A length as people say it: "312 ms", "1.24 s", "2 min 5 s". */
export function durationText(ms: number): string {
  if (ms < 1000) return `${Math.round(ms)} ms`;
  if (ms < 10_000) return secondsText(ms);
  if (ms < 60_000) return secondsText(ms, 1);
  return `${Math.floor(ms / 60_000)} min ${Math.floor((ms % 60_000) / 1000)} s`;
}

/** Elapsed time as a running clock: "0:07.3". */
export function clockText(ms: number): string {
  const tenths = Math.floor(ms / 100);
  const seconds = String(Math.floor(tenths / 10) % 60).padStart(2, '0');
  return `${Math.floor(tenths / 600)}:${seconds}.${tenths % 10}`;
}

/** "31 B", "12 kB", "1.4 MB". */
export function bytesText(bytes: number): string {
  if (bytes < KIB) return `${bytes} B`;
  if (bytes < KIB ** 2) return `${(bytes / KIB).toFixed(0)} kB`;
  if (bytes < KIB ** 3) return `${(bytes / KIB ** 2).toFixed(1)} MB`;
  return `${(bytes / KIB ** 3).toFixed(1)} GB`;
}

/** A share of one: "62 %", "0.4 %". */
export function percentText(share: number): string {
  const percent = share * 100;
  return `${percent > 0 && percent < 1 ? percent.toFixed(1) : Math.round(percent)} %`;
}
