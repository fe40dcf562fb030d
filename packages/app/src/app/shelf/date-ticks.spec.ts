import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dateAxis, dateTicks } from './date-ticks';

const DAY = 86_400_000;
const at = (text: string) => new Date(text).getTime();

describe('moments on an axis of dates', () => {
  it('are midnights where some days are shown, and hours where some hours are', () => {
    const days = dateTicks(at('2026-11-20T10:00'), at('2026-11-24T10:00'), 6);
    expect(days.map(({ value }) => value)).toEqual(
      ['21', '22', '23', '24'].map((day) => at(`2026-11-${day}T00:00`)),
    );
    const hours = dateTicks(at('2026-11-20T10:10'), at('2026-11-20T13:50'), 6);
    expect(hours.map(({ value }) => value)).toEqual(
      ['11', '12', '13'].map((hour) => at(`2026-11-20T${hour}:00`)),
    );
  });

  it('are within what is shown, in order, and not too many', () => {
    const moments = fc.integer({ min: at('2020-01-01'), max: at('2040-01-01') });
    fc.assert(
      fc.property(moments, fc.integer({ min: 1, max: 3000 * DAY }), (fromMs, span) => {
        const ticks = dateTicks(fromMs, fromMs + span, 6).map(({ value }) => value);
        expect(ticks.every((value) => value >= fromMs && value <= fromMs + span)).toBe(true);
        expect(ticks).toEqual([...new Set(ticks)].sort((a, b) => a - b));
        expect(ticks.length).toBeLessThanOrEqual(8);
      }),
    );
  });

  it('stand on the axis of a chart in words, and never as a number of milliseconds', () => {
    const { afterBuildTicks, callback } = dateAxis(6);
    const axis = { min: at('2026-11-20T10:00'), max: at('2026-11-24T10:00'), ticks: [{ value: 1 }] };
    afterBuildTicks(axis);
    const words = axis.ticks.map(({ value }) => callback(value));
    expect(words).toHaveLength(4);
    expect(words.every((one) => /\d/.test(one) && !/\d{4,}/.test(one))).toBe(true);
    expect(callback(1)).toBe('');
  });
});
