import { Injectable, computed, effect, inject } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { AddressService } from './address.service';
import { RecordingService } from './recording.service';
import { ShelfService } from './shelf.service';

/** What the page is called, for its tab and for who comes back to it: the recording, the view, the tool. */
@Injectable({ providedIn: 'root' })
export class PageTitleService {
  readonly #address = inject(AddressService);
  readonly #analysed = inject(RecordingService).analysed;
  readonly #shelf = inject(ShelfService);
  readonly #title = inject(Title);

  /** Name of the view, as people read it: "Stings". */
  readonly view = computed(() => {
    const name = this.#address.view();
    return name.charAt(0).toUpperCase() + name.slice(1);
  });

  /** Title of the recording that the view looks into, as it is called now; empty where it looks into none. */
  readonly recording = computed(() => {
    const opened = this.#analysed();
    const kept = this.#shelf.recordings()?.find(({ id }) => id === opened?.id);
    return kept?.title ?? opened?.header.title ?? '';
  });

  constructor() {
    effect(() => {
      const parts = [this.recording(), this.view(), 'Nettle Patch'];
      this.#title.setTitle(parts.filter((part) => part !== '').join(' · '));
    });
  }
}
