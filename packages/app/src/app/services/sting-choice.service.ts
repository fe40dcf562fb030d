import { Injectable, computed, inject } from '@angular/core';
import { STING_KINDS, type StingKind } from '@nettle-patch/core';
import type { ListedSeries, ListedSting } from '../../workers/opened';
import { AddressService } from './address.service';
import { LensService } from './lens.service';
import { RecordingService } from './recording.service';

/** The stings that the lens and the chosen kinds leave, and the one that is shown. It lives in the address. */
@Injectable({ providedIn: 'root' })
export class StingChoiceService {
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService).lens;
  readonly #open = inject(RecordingService).open;

  readonly #opened = computed(() => {
    const open = this.#open();
    return open.state === 'open' ? open.opened : undefined;
  });

  /** Kinds that are shown; none means all. */
  readonly kinds = computed((): readonly StingKind[] => {
    const asked = (this.#address.query()['kinds'] ?? '').split(',');
    return STING_KINDS.filter((kind) => asked.includes(kind));
  });

  /** The series that have a sting under the lens, of any kind. */
  readonly underLens = computed((): readonly ListedSeries[] => {
    const opened = this.#opened();
    return this.#kept((index) => this.#isUnderLens(opened!.stings[index]!));
  });

  /** The series that are shown, each with those of its stings that are. */
  readonly series = computed((): readonly ListedSeries[] => {
    const kinds = this.kinds();
    const stings = this.#opened()?.stings ?? [];
    return this.underLens().filter(
      ({ stings: [first] }) => kinds.length === 0 || kinds.includes(stings[first!]!.kind),
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
    if (wanted !== thread) return false;
    return feltMs >= minMs && label.toLowerCase().includes(text.toLowerCase());
  }
}
