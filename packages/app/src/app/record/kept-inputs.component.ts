import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import type { Target } from '@nettle-patch/core';
import { SettingsService } from '../services/settings.service';

/** Chooses what of a person's input is kept, so that it can be done again. */
@Component({
  selector: 'np-kept-inputs',
  imports: [MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>For doing it again</h3>
    <mat-checkbox [checked]="steps() !== 'off'" (change)="keep($event.checked ? 'places' : 'off')">
      Keep what is tapped, dragged and scrolled
    </mat-checkbox>
    @if (steps() !== 'off') {
      <mat-checkbox [checked]="steps() === 'texts'" (change)="keep($event.checked ? 'texts' : 'places')">
        and the words that are typed, but for passwords
      </mat-checkbox>
    }
    @if (mustReload()) {
      <p class="soft">Holds for pages that are loaded from now on.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
    }
    h3 {
      font-size: 14px;
      margin-bottom: 0;
    }
    p {
      margin: 0;
      font-size: 13px;
    }
  `,
})
export class KeptInputsComponent {
  readonly #settings = inject(SettingsService);
  readonly target = input<Target>();
  protected readonly steps = computed(() => this.#settings.settings().steps);
  protected readonly mustReload = computed(() => {
    const target = this.target();
    if (!target?.url.startsWith('http')) return false;
    return this.steps() === 'texts' || target.available.includes('steps') !== (this.steps() === 'places');
  });

  protected keep(steps: 'off' | 'places' | 'texts'): void {
    this.#settings.change({ steps });
  }
}
