import { Injectable, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import type { ReplayData } from '../replay/replay-dialog.component';
import { ShortcutsService } from '../services/shortcuts.service';
import { RecordingService } from '../services/recording.service';

/** Keys that work in every view, and the sheets they open. */
@Injectable({ providedIn: 'root' })
export class ShellKeys {
  readonly #dialog = inject(MatDialog);
  readonly #shortcuts = inject(ShortcutsService);
  readonly #opened = inject(RecordingService).opened;

  take(event: KeyboardEvent): void {
    if (!this.#shortcuts.mayAct(event)) return;
    if (event.key === '/') this.search();
    else if (event.key === '?') this.help();
    else return;
    event.preventDefault();
  }

  search(): void {
    if (this.#opened() === undefined) return;
    void import('../search/search-dialog.component').then(({ SearchDialogComponent }) =>
      this.#dialog.open(SearchDialogComponent, {
        width: '640px',
        position: { top: '60px' },
        ariaLabel: 'Search',
        autoFocus: 'first-tabbable',
      }),
    );
  }

  /** Has what was done in the open recording, or the steps of a file, done again. */
  replay(data: ReplayData): void {
    void import('../replay/replay-dialog.component').then(({ ReplayDialogComponent }) =>
      this.#dialog.open(ReplayDialogComponent, {
        width: '1000px',
        maxWidth: '94vw',
        ariaLabel: 'Repeat automatically',
        disableClose: true,
        data,
      }),
    );
  }

  help(): void {
    void import('../help/help-dialog.component').then(({ HelpDialogComponent }) =>
      this.#dialog.open(HelpDialogComponent, { width: '860px', maxWidth: '92vw', ariaLabel: 'Help' }),
    );
  }

  settings(): void {
    void import('../preferences/preferences-dialog.component').then(({ PreferencesDialogComponent }) =>
      this.#dialog.open(PreferencesDialogComponent, {
        width: '720px',
        maxWidth: '92vw',
        ariaLabel: 'Settings',
      }),
    );
  }
}
