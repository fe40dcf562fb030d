import {
  compareAnatomies,
  comparisonMarkdown,
  comparisonPage,
  comparisonPicture,
  flameDifference,
  isChange,
  proofOf,
  type ComparedAnatomies,
  type ComparedFunction,
  type ComparedSeries,
  type DifferenceBox,
  type Header,
  type Proof,
  type Recording,
} from '@nettle-patch/core';
import type { ReportForm } from '../report-form';

/** Narrower boxes cannot be seen: a pixel of a drawing twice as wide as most. */
const MIN_BOX = 1 / 2400;
const MAX_FUNCTIONS = 400;

/** One of two recordings that are held against each other. */
export interface ComparedSide {
  readonly id: string;
  readonly header: Header;
}

/** What changed from one recording to another, as the interface shows it. */
export interface ComparedRecordings {
  readonly before: ComparedSide;
  readonly after: ComparedSide;
  readonly warnings: readonly string[];
  /** What the comparison cannot know. */
  readonly caveats: readonly string[];
  readonly tested: number;
  readonly series: readonly ComparedSeries[];
  /** Those that changed, the largest change first. */
  readonly functions: readonly ComparedFunction[];
  readonly boxes: readonly DifferenceBox[];
  readonly budgetMs: number;
}

/** Answers what is asked about two recordings. */
export class CompareQueries {
  readonly #proof: Proof;

  constructor(
    private readonly before: Recording,
    private readonly after: Recording,
    thresholds: Proof['thresholds'],
  ) {
    this.#proof = proofOf(before, after, thresholds);
  }

  overview(): ComparedRecordings {
    const { before, after } = this;
    const { warnings, caveats, tested, series, functions } = this.#proof.comparison;
    return {
      before: { id: before.header.id, header: before.header },
      after: { id: after.header.id, header: after.header },
      warnings,
      caveats,
      tested,
      series,
      functions: functions.filter(({ change }) => isChange(change)).slice(0, MAX_FUNCTIONS),
      boxes: flameDifference(before, after, MIN_BOX),
      budgetMs: this.#proof.thresholds.responseMs,
    };
  }

  anatomies(label: string): ComparedAnatomies {
    const { before, after } = this;
    const known = this.#proof.anatomies.find((one) => one.label === label);
    return known ?? compareAnatomies(before, after, label, this.#proof.thresholds);
  }

  /** The proof as text: Markdown, an HTML page, or SVG. */
  proof(form: ReportForm): string {
    if (form === 'page') return comparisonPage(this.#proof);
    if (form === 'picture') return comparisonPicture(this.#proof);
    return comparisonMarkdown(this.before, this.after, this.#proof.comparison);
  }
}
