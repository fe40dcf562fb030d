import {
  compareSeveral,
  severalMarkdown,
  severalPage,
  type Recording,
  type SeveralComparison,
  type SeveralFunction,
  type Thresholds,
} from '@nettle-patch/core';
import type { ReportForm } from '../report-form';
import type { ComparedSide } from './compare-queries';

const MAX_FUNCTIONS = 200;

/** Several recordings as the interface shows them. */
export interface SeveralRecordings extends SeveralComparison {
  readonly recordings: readonly ComparedSide[];
  /** Those whose cost differs by more than chance, those that took most first. */
  readonly functions: readonly SeveralFunction[];
  readonly budgetMs: number;
}

/** Answers what is asked about several recordings. */
export class SeveralQueries {
  readonly #comparison: SeveralComparison;

  constructor(
    private readonly recordings: readonly Recording[],
    private readonly thresholds: Thresholds,
  ) {
    this.#comparison = compareSeveral(recordings, thresholds);
  }

  overview(): SeveralRecordings {
    const isTold = ({ standings }: SeveralFunction) => standings.some((standing) => standing !== undefined);
    return {
      ...this.#comparison,
      recordings: this.recordings.map(({ header }) => ({ id: header.id, header })),
      functions: this.#comparison.functions.filter(isTold).slice(0, MAX_FUNCTIONS),
      budgetMs: this.thresholds.responseMs,
    };
  }

  /** The table as text: an HTML page, else Markdown. */
  report(form: ReportForm): string {
    return form === 'page'
      ? severalPage(this.recordings, this.#comparison)
      : severalMarkdown(this.recordings, this.#comparison);
  }
}
