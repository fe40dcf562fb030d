import type { Row } from '@nettle-patch/core';
import type { FineMessage } from '../messages';
import type { CallPacker } from './call-packer';
import { FineRows } from './fine-rows';
import type { SampledTablesOfRecordings } from './sampled-tables-of';
import { SharedSampler } from './shared-sampler';
import type { PositionedStacks } from './watchdog';

/** Takes what threads tell in fine mode, or samples them itself where it can see their memory. */
export class FineThreads implements PositionedStacks {
  readonly #rows: FineRows;
  #sampler: SharedSampler | undefined;

  /** @param add takes rows for a recording */
  constructor(
    calls: CallPacker,
    tables: SampledTablesOfRecordings,
    private readonly add: (recordingId: string, rows: readonly Row[]) => void,
  ) {
    this.#rows = new FineRows(calls, tables);
  }

  take(message: FineMessage): void {
    const { recordingId, thread } = message;
    if (message.type === 'looks') this.add(recordingId, this.#rows.samples(message));
    else if (message.type === 'counts') this.add(recordingId, this.#rows.counts(message));
    else {
      this.#sampler ??= new SharedSampler((samples) =>
        this.add(samples.recordingId, this.#rows.samples(samples)),
      );
      const behindMs = message.clockOrigin - performance.timeOrigin;
      this.#sampler.see(recordingId, thread, message.originMs + behindMs, message.calls);
    }
  }

  end(): void {
    this.#sampler?.end();
    this.#rows.forget();
  }

  openPositions(): readonly number[] {
    return this.#sampler?.openCalls() ?? this.#rows.latest;
  }

  stackRows(recordingId: string, positions: readonly number[]): { rows: Row[]; stack: number } {
    return this.#rows.stackRows(recordingId, positions);
  }
}
