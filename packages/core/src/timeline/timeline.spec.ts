import { describe, expect, it } from 'vitest';
import { interactionsOf } from '../inputs/interactions';
import { displayName } from '../recording/functions';
import { frameTimes } from '../stings/frame-times';
import { recorded } from '../testing/recorded';
import { arbitraryRecording } from '../testing/arbitrary-recording';
import fc from 'fast-check';
import { interactionSlices, interactionRowsOf } from './ladder';
import { ITEM_STYLES, itemStyleCode } from './item-styles';
import { threadItem } from './thread-lane';
import { lanesOf } from './timeline';

const laneOf = (name: string, id: string) => lanesOf(recorded(name)).find((lane) => lane.id === id)!;

describe('the lanes of a recording', () => {
  it('are those that have something in them, each once', () => {
    const ids = lanesOf(recorded('deck-drag')).map(({ id }) => id);
    expect(ids).toEqual(expect.arrayContaining(['inputs', 'frames', 'thread 0', 'requests', 'redraws']));
    expect(new Set(ids).size).toBe(ids.length);
    for (const lane of lanesOf(recorded('deck-drag'))) expect(lane.count).toBeGreaterThan(0);
  });

  it('draw only what they can find again by its number', () => {
    const recording = recorded('board-all-exact');
    const { range } = recording;
    for (const lane of lanesOf(recording)) {
      const items = lane.draw(range, 800);
      expect(items.count).toBeGreaterThan(0);
      for (let at = 0; at < items.count; at++) {
        expect(items.rows[at]).toBeLessThan(lane.rows);
        expect(ITEM_STYLES[items.styles[at]!]).toBeDefined();
      }
    }
  });

  it('draw any recording at any zoom without failing', () => {
    fc.assert(
      fc.property(
        arbitraryRecording,
        fc.nat(2400),
        fc.integer({ min: 1, max: 2500 }),
        (recording, from, length) => {
          for (const lane of lanesOf(recording)) {
            const { count, startsMs, endsMs } = lane.draw({ startMs: from, endMs: from + length }, 300);
            for (let at = 0; at < count; at++) {
              expect(endsMs[at]! >= startsMs[at]!).toBe(true);
              expect(startsMs[at]! < from + length && endsMs[at]! >= from - 0.001).toBe(true);
            }
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('the lane of a thread', () => {
  it('tells tasks from calls, and calls by their function', () => {
    const recording = recorded('board-all-exact');
    const lane = laneOf('board-all-exact', 'thread 0');
    const items = lane.draw(recording.range, 1200);
    const names = new Set<string>();
    for (let at = 0; at < items.count; at++) {
      const item = threadItem(recording, 0, items.refs[at]!);
      if (item.type === 'task') continue;
      const id = recording.stacks.functionOf(item.spans.stacks[item.index]!);
      names.add(displayName(recording.functions.get(id)));
    }
    expect(names).toContain('onBoardAll');
    expect(names).toContain('bendingOfPair');
  });

  it('finds the call that is drawn at a place', () => {
    const recording = recorded('board-all-exact');
    const lane = lanesOf(recording).find(({ id }) => id === 'thread 0')!;
    const { startMs, feltMs } = interactionsOf(recording).find(({ label }) => label.includes('Board all'))!;
    const ref = lane.at(startMs + feltMs / 2, 1, 0)!;
    const item = threadItem(recording, 0, ref);
    expect(item).toMatchObject({ type: 'call', exact: true });
  });

  it('shows many forced layouts in one pixel as layout', () => {
    const recording = recorded('deck-drag');
    const lane = laneOf('deck-drag', 'thread 0');
    const items = lane.draw(recording.range, 400);
    const styles = new Set(Array.from(items.styles, (style) => ITEM_STYLES[style]));
    expect(styles).toContain('layout');
    expect(styles).toContain('long-task');
  });
});

describe('frames', () => {
  it('are late in the lane where they missed a picture', () => {
    const recording = recorded('deck-drag');
    const late = frameTimes(recording, 0).filter(({ missed }) => missed > 0).length;
    const items = laneOf('deck-drag', 'frames').draw(recording.range, 1_000_000);
    expect(late).toBeGreaterThan(5);
    expect(Array.from(items.styles).filter((style) => style === itemStyleCode('late-frame'))).toHaveLength(
      late,
    );
  });
});

describe('the ladder', () => {
  it('has every interaction once, those of one label together, the longest label first', () => {
    const recording = recorded('manifest-search');
    const rows = interactionRowsOf(recording);
    expect(rows.map(({ interaction }) => interaction).sort((a, b) => a - b)).toEqual(
      interactionsOf(recording).map((_, at) => at),
    );
    const labels = rows.map(({ label }) => label);
    const blocks = labels.filter((label, at) => label !== labels[at - 1]);
    expect(new Set(blocks).size).toBe(blocks.length);
    expect(rows[0]!.label).toBe('Type in search field “Search manifest”');
  });

  it('is made of pieces that lie within the delay, in order, without overlap', () => {
    const recording = recorded('manifest-search');
    for (const row of interactionRowsOf(recording)) {
      const pieces = interactionSlices(recording, row);
      let atMs = 0;
      for (const { fromMs, toMs } of pieces) {
        expect(fromMs).toBeGreaterThanOrEqual(atMs - 1e-6);
        expect(toMs).toBeGreaterThan(fromMs);
        atMs = toMs;
      }
      expect(atMs).toBeLessThanOrEqual(row.feltMs + 1e-6);
    }
  });
});
