import { Injectable, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { PreferencesService } from './preferences.service';
import { isTaken } from '../shared/keys';

/** Which keys, pressed anywhere on the page, are shortcuts of the views. */
@Injectable({ providedIn: 'root' })
export class ShortcutsService {
  readonly #dialog = inject(MatDialog);
  readonly #preferences = inject(PreferencesService);

  /** Whether the views stand behind a dialog, which keys are for then. */
  isBehindDialog(): boolean {
    return this.#dialog.openDialogs.length > 0;
  }

  /**
   * Whether a key may act: it belongs to no field and no dialog, and is no single letter or sign where those are switched
   * off (Web Content Accessibility Guidelines 2.2, 2.1.4).
   */
  mayAct(event: KeyboardEvent): boolean {
    if (isTaken(event) || this.isBehindDialog()) return false;
    return event.key.length > 1 || this.#preferences.now().letterKeys;
  }
}
