import { Injectable, signal } from '@angular/core';
import { NettleDatabase } from '../../store/database';
import {
  USUAL_PREFERENCES,
  preferencesSchema,
  readPreferences,
  type Preferences,
} from '../../store/preferences';

const NAME = 'preferences';

/** What a person has set: theme, thresholds, whose code is whose, the editor, the lanes. Kept in this browser. */
@Injectable({ providedIn: 'root' })
export class PreferencesService {
  readonly #database = new NettleDatabase();
  readonly #now = signal<Preferences>(USUAL_PREFERENCES);
  readonly now = this.#now.asReadonly();
  /** Resolves once they have been read. */
  readonly ready = this.#read();

  /** @throws ValidationError naming what makes no sense; nothing is changed then. */
  async change(part: Partial<Preferences>): Promise<void> {
    const changed = preferencesSchema.validateSync({ ...this.#now(), ...part });
    this.#now.set(changed);
    await this.#database.preferences.put({ name: NAME, value: changed });
  }

  async #read(): Promise<void> {
    try {
      const kept = await this.#database.preferences.get(NAME);
      if (kept !== undefined) this.#now.set(readPreferences(kept.value));
    } catch {
      // A browser that keeps nothing still shows everything, as usual.
    }
  }
}
