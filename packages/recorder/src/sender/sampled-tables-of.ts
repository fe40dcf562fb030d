import { firstSampledIdOf, type Row } from '@nettle-patch/core';
import { SampledTables } from './sampled-tables';

/** The tables of what was sampled, by recording, and the rows about what is new in them. */
export class SampledTablesOfRecordings {
  /** How many pages came before in the recording. */
  page = 0;
  #rows: Row[] = [];
  readonly #tables = new Map<string, SampledTables>();

  of(recordingId: string): SampledTables {
    let tables = this.#tables.get(recordingId);
    if (tables === undefined) {
      tables = new SampledTables((row) => this.#rows.push(row), firstSampledIdOf(this.page));
      this.#tables.set(recordingId, tables);
    }
    return tables;
  }

  /** The rows about what has become known since the last call. */
  takeRows(): Row[] {
    const rows = this.#rows;
    this.#rows = [];
    return rows;
  }

  forget(recordingId: string): void {
    this.#tables.delete(recordingId);
  }
}
