import { Injectable, computed, effect, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { fromEvent, map, startWith } from 'rxjs';
import { readPalette } from '../shared/palette';
import { PreferencesService } from './preferences.service';

/** Light or dark, as set or as the system has it, and the colours for drawings. */
@Injectable({ providedIn: 'root' })
export class ThemeService {
  readonly #preferences = inject(PreferencesService);
  readonly #system = matchMedia('(prefers-color-scheme: dark)');
  readonly #systemIsDark = toSignal(
    fromEvent<MediaQueryListEvent>(this.#system, 'change').pipe(
      map(({ matches }) => matches),
      startWith(this.#system.matches),
    ),
    { requireSync: true },
  );
  readonly theme = computed((): 'light' | 'dark' => {
    const { theme } = this.#preferences.now();
    if (theme === 'light' || theme === 'dark') return theme;
    return this.#systemIsDark() ? 'dark' : 'light';
  });
  /** The colours in force. */
  readonly palette = computed(() => {
    document.documentElement.dataset['theme'] = this.theme();
    return readPalette();
  });

  constructor() {
    effect(() => void this.palette());
  }
}
