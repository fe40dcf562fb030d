import { firstSampledIdOf, unpackSamples, type Row } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import type { ProfilerTrace, SampledTrace, ToSender } from '../messages';
import { Sender } from './sender';
import { SampledTablesOfRecordings } from './sampled-tables-of';
import { TraceRows } from './trace-rows';

const traced = (samples: ProfilerTrace['samples']): SampledTrace => ({
  recordingId: 'boarding',
  thread: 0,
  originMs: 1000,
  intervalMs: 10,
  trace: {
    resources: ['http://localhost:4781/desk.js'],
    frames: [{ name: 'weigh', resourceId: 0, line: 1, column: 1 }],
    stacks: [{ frameId: 0 }],
    samples,
  },
});
const samplesIn = (rows: readonly Row[]) => rows.filter((row) => row.kind === 'samples').map(unpackSamples);

describe('traces of the engine’s profiler', () => {
  it('are put in order of time: one sample may come before its neighbour', () => {
    const rows = new TraceRows(new SampledTablesOfRecordings()).rows(
      traced([
        { timestamp: 1030.1, stackId: 0 },
        { timestamp: 1020, stackId: 0 },
        { timestamp: 1040, stackId: 0 },
        { timestamp: 900, stackId: 0 },
        { timestamp: Number.NaN, stackId: 0 },
      ]),
    );
    const first = firstSampledIdOf(0);
    expect(samplesIn(rows)).toEqual([{ timesUs: [20_000, 30_100, 40_000], stacks: [first, first, first] }]);
  });

  it('that cannot be read are told of as dropped, and nothing is thrown', () => {
    const sender = new Sender(() => undefined);
    const broken = { type: 'trace', ...traced([]), trace: null } as unknown as ToSender;
    expect(() => sender.take(broken)).not.toThrow();
  });
});
