import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import type { Target } from '@nettle-patch/core';
import { SettingsService } from '../services/settings.service';

/** Chooses what is kept of a person's input and of the page's words. */
@Component({
  selector: 'np-kept-inputs',
  imports: [MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-checkbox [checked]="labels() === 'texts'" (change)="name($event.checked ? 'texts' : 'ids')">
      Name buttons, links, menu items and tabs by their visible text
    </mat-checkbox>
    <mat-checkbox [checked]="steps() !== 'off'" (change)="keep($event.checked ? 'places' : 'off')">
      Keep what is tapped, dragged and scrolled, for doing it again
    </mat-checkbox>
    @if (steps() !== 'off') {
      <mat-checkbox [checked]="steps() === 'texts'" (change)="keep($event.checked ? 'texts' : 'places')">
        and the words that are typed, but for passwords
      </mat-checkbox>
    }
    @if (mustReload()) {
      <p class="soft">Applies to pages that are loaded from now on.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
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
  protected readonly labels = computed(() => this.#settings.settings().labels);
  protected readonly mustReload = computed(() => {
    const target = this.target();
    if (!target?.url.startsWith('http')) return false;
    return this.steps() === 'texts' || target.available.includes('steps') !== (this.steps() === 'places');
  });

  protected name(labels: 'ids' | 'texts'): void {
    this.#settings.change({ labels });
  }

  protected keep(steps: 'off' | 'places' | 'texts'): void {
    this.#settings.change({ steps });
  }
}
