import { describe, expect, it } from 'vitest';
import type { LaneInfo } from '../../workers/analysis/queries/timeline-queries';
import { inOrder, moved, toggled } from './lane-order';

const lane = (id: string): LaneInfo => ({ id, kind: 'spans', title: id, thread: 0, rows: 1, count: 1 });
const LANES = ['inputs', 'frames', 'thread 0', 'requests', 'memory'].map(lane);
const idsOf = (lanes: readonly LaneInfo[]) => lanes.map(({ id }) => id);

describe('the order of lanes', () => {
  it('is that of the recording until something is moved', () => {
    expect(inOrder(LANES, [])).toEqual(LANES);
  });

  it('is what was kept, and what is new stands after what it follows at first', () => {
    expect(idsOf(inOrder(LANES, ['memory', 'inputs', 'thread 0']))).toEqual([
      'memory',
      'inputs',
      'frames',
      'thread 0',
      'requests',
    ]);
  });

  it('passes over lanes that this recording does not have', () => {
    expect(idsOf(inOrder(LANES, ['thread 7', 'memory']))).toContain('thread 0');
    expect(inOrder(LANES, ['thread 7', 'memory'])).toHaveLength(LANES.length);
  });

  it('changes by one step, and not beyond the ends', () => {
    expect(moved(LANES, 'requests', -1)).toEqual(['inputs', 'frames', 'requests', 'thread 0', 'memory']);
    expect(moved(LANES, 'memory', 1)).toEqual(idsOf(LANES));
    expect(moved(LANES, 'inputs', -1)).toEqual(idsOf(LANES));
  });

  it('hides and shows', () => {
    expect(toggled(['memory'], 'memory')).toEqual([]);
    expect(toggled([], 'memory')).toEqual(['memory']);
  });
});
