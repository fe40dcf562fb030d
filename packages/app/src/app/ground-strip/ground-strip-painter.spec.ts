import { expect, it } from 'vitest';
import type { ListedSting } from '../../workers/analysis/analysis-results';
import { TimeScale } from '../shared/time-scale';
import { stingAt } from './ground-strip-painter';

it('the sting at a place is the one whose mark is nearest', () => {
  const scale = new TimeScale(0, 1000, 0, 1000);
  const stings = [100, 108, 400].map((startMs) => ({ startMs }) as ListedSting);
  expect([96, 107, 300, 404].map((x) => stingAt(scale, stings, x))).toEqual([0, 1, undefined, 2]);
});
