import { expect, it } from 'vitest';
import { UnacknowledgedBatches } from './unacknowledged';

const batch = (sequence: number, recordingId = 'friday') => ({
  type: 'rows' as const,
  targetId: 'desk',
  recordingId,
  sequence,
  last: false,
});

it('keeps batches until they are acknowledged, those of other recordings too', () => {
  const batches = new UnacknowledgedBatches();
  for (const sequence of [0, 1, 2]) batches.add(batch(sequence), 'row\n', 1);
  batches.add(batch(0, 'saturday'), 'row\n', 1);
  batches.acknowledge('friday', 1);
  expect(batches.list().map(({ batch: { recordingId, sequence } }) => [recordingId, sequence])).toEqual([
    ['friday', 2],
    ['saturday', 0],
  ]);
  expect(batches.takeDropped()).toBe(0);
});

it('gives up the oldest beyond its bounds, and counts their rows', () => {
  const batches = new UnacknowledgedBatches();
  const tenMegabytes = `${'x'.repeat(10 * 1024 * 1024)}\nrow\n`;
  for (let sequence = 0; sequence < 5; sequence++) batches.add(batch(sequence), tenMegabytes, 2);
  expect(batches.list().map(({ batch: { sequence } }) => sequence)).toEqual([2, 3, 4]);
  expect(batches.takeDropped()).toBe(4);
  expect(batches.takeDropped()).toBe(0);
});
