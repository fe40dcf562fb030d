import { describe, expect, it } from 'vitest';
import type { LaneInfo } from '../../workers/analysis/queries/timeline-queries';
import { heightOf, placeLanes, rowAt } from './lane-layout';
import { readItem, itemParameter } from './item-parameter';

const lane = (id: string, kind: LaneInfo['kind'], rows: number): LaneInfo => ({
  id,
  kind,
  title: id,
  thread: 0,
  rows,
  count: 1,
});
const LANES = [lane('inputs', 'inputs', 2), lane('thread 0', 'thread', 9), lane('memory', 'memory', 1)];

describe('lanes in their places', () => {
  it('stand above each other without overlap', () => {
    const placed = placeLanes(LANES, []);
    placed.slice(1).forEach((one, at) => {
      expect(one.top).toBeGreaterThanOrEqual(placed[at]!.top + placed[at]!.height);
    });
    expect(heightOf(placed)).toBeGreaterThan(placed.at(-1)!.top + placed.at(-1)!.height);
    expect(heightOf([])).toBe(0);
  });

  it('are lower when folded, and then have one row', () => {
    const folded = placeLanes(LANES, ['thread 0']);
    expect(heightOf(folded)).toBeLessThan(heightOf(placeLanes(LANES, [])));
    expect(rowAt(folded, folded[1]!.top + 15)).toMatchObject({ row: 0 });
  });

  it('are found with the row at a place, and nothing between them', () => {
    const placed = placeLanes(LANES, []);
    const thread = placed[1]!;
    for (let row = 0; row < 9; row++) {
      const at = rowAt(placed, thread.top + (row + 0.5) * thread.rowHeight);
      expect(at).toEqual({ placed: thread, row });
    }
    expect(rowAt(placed, thread.top + thread.height + 2)).toBeUndefined();
  });
});

describe('what is selected, in the address', () => {
  it.each([
    ['inputs', 3],
    ['thread 0', 1_000_001],
    ['thread 12', 0],
    ['memory', -2],
  ])('%s %i comes back', (laneId, ref) => {
    expect(readItem(itemParameter(laneId, ref))).toEqual({ lane: laneId, ref });
  });

  it.each([undefined, '', 'inputs', 'inputs.x', '../x.1', 'inputs.99999999999'])('%s is nothing', (text) => {
    expect(readItem(text)).toBeUndefined();
  });
});
