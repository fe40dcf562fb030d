import type { ReadNotice } from './errors';

const KEPT_PER_CODE = 5;

/** Collects what was lost while reading: the first few of each kind in full, the others as a count. */
export class NoticeList {
  readonly #kept: ReadNotice[] = [];
  readonly #counts = new Map<ReadNotice['code'], number>();

  /** @param tell is told every one, when it is added */
  constructor(private readonly tell: (notice: ReadNotice) => void = () => undefined) {}

  add(notice: ReadNotice): void {
    this.tell(notice);
    const count = (this.#counts.get(notice.code) ?? 0) + 1;
    this.#counts.set(notice.code, count);
    if (count <= KEPT_PER_CODE) this.#kept.push(notice);
  }

  /** The notices kept, and one for each kind of which there were more. */
  list(): ReadNotice[] {
    const more = [...this.#counts].filter(([, count]) => count > KEPT_PER_CODE);
    return [
      ...this.#kept,
      ...more.map(([code, count]) => ({ code, detail: `${count - KEPT_PER_CODE} more of this kind` })),
    ];
  }
}
