/**
 * How figures are written, wherever people read them: thousands and decimals as the language of the browser, or of the
 * command line, has them. Examples are English.
 */

const KIB = 1024;
const formats = new Map<string, Intl.NumberFormat>();

/** Making a format takes longer than using it a hundred times. */
function formatOf(least: number, most: number): Intl.NumberFormat {
  const key = `${least} ${most}`;
  let format = formats.get(key);
  if (format === undefined) {
    format = new Intl.NumberFormat(undefined, { minimumFractionDigits: least, maximumFractionDigits: most });
    formats.set(key, format);
  }
  return format;
}

/** A number of things: "1,200". */
export function countText(value: number): string {
  return formatOf(0, 0).format(Math.round(value));
}

/** A number with just so many digits behind the point: "1,200.50". */
export function decimalText(value: number, digits: number): string {
  return formatOf(digits, digits).format(value);
}

/** A number to the digit that means something at a glance: one behind the point below ten, else none. */
export function roundText(value: number): string {
  return decimalText(value, value < 10 ? 1 : 0);
}

/** So many of something whose plural ends with "s": "1 call", "1,200 calls". */
export function countedText(value: number, one: string): string {
  return `${countText(value)} ${one}${value === 1 ? '' : 's'}`;
}

/** A number as it is, with at most so many digits behind the point: "1,200.5". */
export function numberText(value: number, digits = 3): string {
  return formatOf(0, digits).format(value);
}

/** A moment, or a length of some seconds: "1.25 s". */
export function secondsText(ms: number, digits = 2): string {
  return `${decimalText(ms / 1000, digits)} s`;
}

/** Milliseconds with as many digits as can be told apart, without the unit: "0.41", "312.5", "1,240". */
export function msFigure(ms: number): string {
  return ms < 10 ? decimalText(ms, 2) : ms < 1000 ? decimalText(ms, 1) : countText(ms);
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
  if (bytes < KIB ** 2) return `${countText(bytes / KIB)} kB`;
  if (bytes < KIB ** 3) return `${decimalText(bytes / KIB ** 2, 1)} MB`;
  return `${decimalText(bytes / KIB ** 3, 1)} GB`;
}

/** A share of one: "62 %", "0.4 %", "< 0.1 %". */
export function percentText(share: number): string {
  const percent = share * 100;
  if (percent > 0 && percent < 0.05) return `< ${decimalText(0.1, 1)} %`;
  return `${percent > 0 && percent < 1 ? decimalText(percent, 1) : Math.round(percent)} %`;
}
