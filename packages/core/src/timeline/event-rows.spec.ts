import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DrawnWriter } from './drawn-items';
import { EventRows, type TimelineEvent } from './event-rows';
import { itemStyleCode } from './item-styles';

const events = fc.array(
  fc
    .record({
      startMs: fc.integer({ min: 0, max: 900 }),
      length: fc.integer({ min: 0, max: 120 }),
      style: fc.nat(20),
    })
    .map(({ startMs, length, style }) => ({ startMs, endMs: startMs + length, style })),
  { maxLength: 80 },
);
const numbered = (list: readonly Omit<TimelineEvent, 'ref'>[]) =>
  list.map((event, ref): TimelineEvent => ({ ...event, ref }));
function drawn(rows: EventRows, startMs: number, endMs: number, pixels: number) {
  const writer = new DrawnWriter({ startMs, endMs }, pixels, () => '');
  rows.draw(writer);
  return writer.items();
}

describe('events in rows', () => {
  it('are all drawn: something covers each, within a pixel', () => {
    fc.assert(
      fc.property(events, fc.integer({ min: 5, max: 400 }), (list, pixels) => {
        const all = numbered(list);
        const items = drawn(new EventRows(all, 1000), 0, 1100, pixels);
        const pixelMs = 1100 / pixels;
        for (const { startMs } of all) {
          const covered = Array.from({ length: items.count }, (_, at) => at).some(
            (at) => items.startsMs[at]! <= startMs + 1e-9 && items.endsMs[at]! >= startMs - pixelMs,
          );
          expect(covered).toBe(true);
        }
      }),
    );
  });

  it('are drawn in a number that depends on the pixels, not on how many there are', () => {
    const many = numbered(
      Array.from({ length: 20_000 }, (_, at) => ({ startMs: at / 20, endMs: at / 20 + 0.02, style: 0 })),
    );
    const rows = new EventRows(many, 1);
    expect(drawn(rows, 0, 1000, 300).count).toBeLessThanOrEqual(302);
    expect(drawn(rows, 500, 501, 300).count).toBeLessThanOrEqual(22);
  });

  it('never overlap in a row while there is room', () => {
    fc.assert(
      fc.property(events, (list) => {
        const items = drawn(new EventRows(numbered(list), 1000), 0, 1100, 1_000_000);
        for (let a = 0; a < items.count; a++) {
          for (let b = a + 1; b < items.count; b++) {
            if (items.rows[a] !== items.rows[b]) continue;
            expect(items.endsMs[a]! <= items.startsMs[b]! + 0.002).toBe(true);
          }
        }
      }),
    );
  });

  it('are found where they are, and beside it only within the distance', () => {
    fc.assert(
      fc.property(events, (list) => {
        const all = numbered(list);
        const rows = new EventRows(all, 1000);
        for (const { startMs, endMs, ref } of all) {
          const found = Array.from({ length: rows.rows }, (_, row) => rows.at((startMs + endMs) / 2, row, 0));
          expect(found).toContain(ref);
        }
        expect(rows.at(5000, 0, 10)).toBeUndefined();
      }),
    );
  });

  it('show the worst of what shares a pixel', () => {
    const list = [0, 1, 2].map((at) => ({
      startMs: at,
      endMs: at,
      style: itemStyleCode(at === 1 ? 'unchanged' : 'mark'),
    }));
    const items = drawn(new EventRows(numbered(list), 1), 0, 1000, 10);
    expect(items.count).toBe(1);
    expect(items.styles[0]).toBe(itemStyleCode('unchanged'));
  });
});
