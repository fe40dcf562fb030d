import { Injectable, computed, inject } from '@angular/core';
import { STING_KINDS, type StingKind } from '@nettle-patch/core';
import { map } from 'rxjs';
import { USUAL_LENS } from '../lens/lens-state';
import type { ListedSeries, ListedSting } from '../../workers/analysis/analysis-results';
import { answerTo } from '../shared/answer-to';
import { AddressService } from './address.service';
import { LensService } from './lens.service';
import { RecordingService } from './recording.service';

/** The stings that the lens and the chosen kinds leave, and the one that is shown. It lives in the address. */
@Injectable({ providedIn: 'root' })
export class StingChoiceService {
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService).lens;
  readonly #recordings = inject(RecordingService);
  readonly #opened = this.#recordings.opened;

  readonly #focused = computed(
    () => {
      const [id, focus] = [this.#opened()?.id, this.#lens().focus];
      return id === undefined || focus.length === 0 ? undefined : { id, focus };
    },
    { equal: (a, b) => a?.id === b?.id && a?.focus.join() === b?.focus.join() },
  );
  /** Stings during which a function in focus ran; undefined while none is, or it is not known yet. */
  readonly #withFocus = answerTo(this.#focused, ({ focus }) =>
    this.#recordings.ask('stingsOfFunctions', focus).pipe(map((indexes) => new Set(indexes))),
  );

  /** Kinds that are shown; none means all. */
  readonly kinds = computed((): readonly StingKind[] => {
    const asked = (this.#address.query()['kinds'] ?? '').split(',');
    return STING_KINDS.filter((kind) => asked.includes(kind));
  });

  /** The series that have a sting under the lens, of any kind. */
  readonly underLens = computed((): readonly ListedSeries[] => {
    const opened = this.#opened();
    const withFocus = this.#withFocus();
    return this.#kept(
      (index) => this.#isUnderLens(opened!.stings[index]!) && (withFocus?.has(index) ?? true),
    );
  });

  /** The series that are shown, each with those of its stings that are. */
  readonly series = computed((): readonly ListedSeries[] => {
    const kinds = this.kinds();
    const stings = this.#opened()?.stings ?? [];
    return this.underLens().filter(
      ({ stings: [first] }) => kinds.length === 0 || kinds.some((kind) => kind === stings[first!]!.kind),
    );
  });

  /** Index of the sting that is shown. */
  readonly selected = computed(() => {
    const asked = Number(this.#address.query()['sting'] ?? Number.NaN);
    const shown = this.series().flatMap(({ stings }) => stings);
    return shown.includes(asked) ? asked : shown[0];
  });

  readonly selectedSting = computed(() => {
    const selected = this.selected();
    return selected === undefined ? undefined : this.#opened()?.stings[selected];
  });

  choose(sting: number): void {
    void this.#address.change({ sting });
  }

  setKinds(kinds: readonly StingKind[]): void {
    void this.#address.change({ kinds: kinds.length === 0 ? null : kinds.join(',') });
  }

  #kept(keep: (index: number) => boolean): ListedSeries[] {
    const series = this.#opened()?.series ?? [];
    return series
      .map((one) => ({ ...one, stings: one.stings.filter(keep) }))
      .filter(({ stings }) => stings.length > 0);
  }

  #isUnderLens({ startMs, endMs, feltMs, label, thread }: ListedSting): boolean {
    const { range, minMs, text, thread: wanted } = this.#lens();
    if (range !== undefined && (startMs >= range.endMs || endMs <= range.startMs)) return false;
    if (wanted !== USUAL_LENS.thread && wanted !== thread) return false;
    return feltMs >= minMs && label.toLowerCase().includes(text.toLowerCase());
  }
}
