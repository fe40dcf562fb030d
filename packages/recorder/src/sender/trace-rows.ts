import { NO_STACK, RESERVED_PATH, packSamples, toMicroseconds, type Row } from '@nettle-patch/core';
import type { ProfilerTrace, SampledTrace } from '../messages';
import type { SampledTables } from './sampled-tables';
import type { SampledTablesOfRecordings } from './sampled-tables-of';

/** A profiler samples the moment it is started in, which is the recorder's own; its cost is measured apart. */
const isRecorder = (url: string | undefined) => url?.includes(RESERVED_PATH) ?? false;

/** Turns traces of the engine's profiler (WICG JS Self-Profiling) into rows. */
export class TraceRows {
  constructor(private readonly tables: SampledTablesOfRecordings) {}

  /** Rows for one trace: what is new about its scripts, functions and stacks, and its samples. */
  rows({ recordingId, thread, originMs, intervalMs, trace }: SampledTrace): Row[] {
    const stackIds = this.#stackIds(trace, this.tables.of(recordingId));
    const samples = trace.samples.flatMap(({ timestamp, stackId }) => {
      const stack = stackId === undefined ? NO_STACK : stackIds[stackId];
      return !(timestamp >= originMs) || stack === undefined ? [] : [{ timestamp, stack }];
    });
    samples.sort((a, b) => a.timestamp - b.timestamp);
    const rows = this.tables.takeRows();
    if (samples.length > 0) {
      const timesUs = samples.map(({ timestamp }) => toMicroseconds(timestamp - originMs));
      const stacks = samples.map(({ stack }) => stack);
      rows.push({ kind: 'samples', ...packSamples(thread, intervalMs, { timesUs, stacks }) });
    }
    return rows;
  }

  /**
   * Ids of the trace's stacks. The recorder's own frames between those of the app are passed over; undefined is
   * given for stacks of which it is all there is.
   */
  #stackIds({ resources, frames, stacks }: ProfilerTrace, tables: SampledTables): (number | undefined)[] {
    const ids: (number | undefined)[] = [];
    for (const { frameId, parentId } of stacks) {
      const { name, resourceId, line, column } = frames[frameId]!;
      const url = resourceId === undefined ? '' : (resources[resourceId] ?? '');
      const parent = parentId === undefined ? undefined : ids[parentId];
      if (isRecorder(url)) ids.push(parent);
      else ids.push(tables.stack(tables.functionAt(name, url, line, column), parent ?? NO_STACK));
    }
    return ids;
  }
}
