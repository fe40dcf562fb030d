const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
const STEPS = [
  ...[1, 5, 15, 30].map((minutes) => minutes * MINUTE),
  ...[1, 3, 6, 12].map((hours) => hours * HOUR),
  ...[1, 2, 7, 14, 28, 56, 91, 182, 365].map((days) => days * DAY),
];

/** A moment on an axis of dates, with its words. Milliseconds since 1970. */
export interface DateTick {
  readonly value: number;
  readonly label: string;
}

/**
 * Round moments between two others, in local time, with words as the language of the browser has them.
 * @param most number of them
 */
export function dateTicks(fromMs: number, toMs: number, most: number): DateTick[] {
  const span = Math.max(MINUTE, toMs - fromMs);
  const step = STEPS.find((one) => span / one <= most) ?? Math.ceil(span / most / DAY) * DAY;
  const isDays = step >= DAY;
  const format = new Intl.DateTimeFormat(
    undefined,
    isDays
      ? { day: 'numeric', month: 'short' }
      : { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  );
  const at = new Date(fromMs);
  at.setHours(0, 0, 0, 0);
  const ticks: DateTick[] = [];
  while (at.getTime() <= toMs) {
    const value = at.getTime();
    if (value >= fromMs) ticks.push({ value, label: format.format(at) });
    // By the calendar, so that days of 23 and 25 hours begin at midnight, too.
    if (isDays) at.setDate(at.getDate() + step / DAY);
    else at.setTime(value + step);
  }
  return ticks;
}

/** An axis of dates for a chart: its ticks at round moments, each with its words. @param most number of them */
export function dateAxis(most: number) {
  let labels: ReadonlyMap<number, string> = new Map();
  return {
    afterBuildTicks: (axis: { min: number; max: number; ticks: { value: number }[] }): void => {
      const ticks = dateTicks(axis.min, axis.max, most);
      labels = new Map(ticks.map(({ value, label }) => [value, label]));
      axis.ticks = ticks.map(({ value }) => ({ value }));
    },
    callback: (value: number | string): string => labels.get(Number(value)) ?? '',
  };
}
