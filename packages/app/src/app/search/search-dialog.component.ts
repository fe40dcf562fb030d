import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatDialogRef } from '@angular/material/dialog';
import { MatInputModule } from '@angular/material/input';
import type { SearchHit } from '../../workers/analysis/queries/search-queries';
import { AddressService } from '../services/address.service';
import { RecordingService } from '../services/recording.service';
import { IconComponent } from '../shared/icon.component';
import { itemParameter } from '../timeline/item-parameter';
import { answerTo } from '../shared/answer-to';
import { atRest } from '../shared/at-rest';

const TYPING_MS = 80;
const GROUPS: Readonly<Record<SearchHit['type'], string>> = {
  sting: 'Stings',
  function: 'Functions',
  input: 'Inputs',
  request: 'Requests',
  span: 'Marks and spans',
};
const LANES = { input: 'inputs', request: 'requests', span: 'spans' } as const;
/** How much of the time around something found is shown with it. Milliseconds. */
const AROUND_MS = 50;

/** Finds functions, labels, requests and marks of the open recording, and leads to them. */
@Component({
  selector: 'np-search-dialog',
  imports: [MatInputModule, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './search-dialog.component.html',
  styleUrl: './search-dialog.component.scss',
})
export class SearchDialogComponent {
  readonly #dialog = inject<MatDialogRef<SearchDialogComponent>>(MatDialogRef);
  readonly #recordings = inject(RecordingService);
  readonly #address = inject(AddressService);
  protected readonly text = signal('');
  readonly #asked = atRest(this.text, TYPING_MS, '');
  readonly #found = answerTo(
    computed(() => (this.#asked().trim() === '' ? undefined : this.#asked())),
    (text) => this.#recordings.ask('search', text),
  );
  protected readonly hits = computed((): readonly SearchHit[] => this.#found() ?? []);
  /** Index of the hit that Enter leads to. */
  protected readonly on = linkedSignal({ source: this.hits, computation: () => 0 });

  protected readonly groups = computed(() => {
    const hits = this.hits().map((hit, index) => ({ hit, index }));
    return Object.entries(GROUPS)
      .map(([type, title]) => ({ title, hits: hits.filter(({ hit }) => hit.type === type) }))
      .filter((group) => group.hits.length > 0);
  });

  protected keyDown(event: KeyboardEvent): void {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step !== 0) {
      const last = this.hits().length - 1;
      this.on.set(Math.max(0, Math.min(last, this.on() + step)));
      document.getElementById(`hit-${this.on()}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter') {
      const hit = this.hits()[this.on()];
      if (hit !== undefined) this.go(hit);
    } else return;
    event.preventDefault();
  }

  protected go(hit: SearchHit): void {
    const id = this.#recordings.opened()?.id;
    if (id === undefined) return;
    this.#dialog.close();
    if (hit.type === 'sting') void this.#address.go('stings', id, { sting: hit.sting });
    else if (hit.type === 'function') {
      void this.#address.go('calls', id, { show: 'flat', function: hit.functionId, text: null });
    } else {
      const { startMs, endMs, ref } = hit;
      void this.#address.go('timeline', id, {
        thing: itemParameter(LANES[hit.type], ref),
        from: Math.max(0, Math.round(startMs - AROUND_MS)),
        to: Math.round(endMs + AROUND_MS),
      });
    }
  }
}
