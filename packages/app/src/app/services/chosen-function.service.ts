import { Injectable, computed, inject } from '@angular/core';
import { readFunctionId } from '../lens/lens-state';
import { AddressService } from './address.service';
import { RecordingService } from './recording.service';

/** The function that was chosen in any view. It is lit in all of them until it is let go, and lives in the address. */
@Injectable({ providedIn: 'root' })
export class ChosenFunctionService {
  readonly #address = inject(AddressService);
  readonly #recordings = inject(RecordingService);
  /** Its id in the open recording. */
  readonly functionId = computed(() => readFunctionId(this.#address.query()['function']));
  /** Its name; empty until it is known. */
  readonly name = this.#recordings.functionName(this.functionId);

  /** @param functionId undefined lets go of it. Going back passes over the choice. */
  choose(functionId: number | undefined): void {
    void this.#address.change({ function: functionId ?? null }, true);
  }
}
