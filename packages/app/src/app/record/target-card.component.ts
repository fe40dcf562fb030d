import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { LiveTarget } from '../../workers/live/live-state';
import { IconComponent } from '../shared/icon.component';
import { sourceWords } from '@nettle-patch/core';
import { speedWords } from '../shared/words';

const SHOWN_SOURCES = 7;

/** What the recorder's own measuring stands in for, where the engine lacks it. */
const REPLACED_BY: Record<string, string> = { event: 'input-listeners', longtask: 'own-tasks' };

/** Exact calls and steps are chosen beside the card; scripts and the sign are of no interest by themselves. */
const UNTOLD = ['exact-calls', 'fine-samples', 'scripts', 'steps', 'sign'];
const isTold = (source: string) => !UNTOLD.includes(source);

/** A page that can be recorded, and what its engine can give. */
@Component({
  selector: 'np-target-card',
  imports: [IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" role="radio" [attr.aria-checked]="chosen()" (click)="choose.emit()">
      <np-icon [name]="target().device.startsWith('phone') ? 'phone' : 'computer'" />
      <span class="who">
        <strong>{{ target().title || target().url }}</strong>
        <span class="figure soft">{{ target().url }}</span>
      </span>
      <span class="what soft">
        {{ target().engine }} · {{ target().device }}
        @if (rate(); as hz) {
          · {{ hz }} Hz
        }
        @if (speed(); as words) {
          · {{ words }}
        }
        @if (!target().visible) {
          · in the background
        }
      </span>
      <span class="gives soft" [title]="available().join(', ')">Gives {{ shown() }}.</span>
      @if (missing(); as missing) {
        <span class="gives over">Lacks {{ missing }}.</span>
      }
    </button>
  `,
  styles: `
    button {
      width: 100%;
      display: grid;
      grid-template-columns: auto 1fr auto;
      gap: 2px 12px;
      text-align: left;
      padding: 12px 16px;
      font: inherit;
      color: inherit;
      background: var(--panel);
      border: 1px solid var(--line);
      border-radius: 8px;
      cursor: pointer;
    }
    button[aria-checked='true'] {
      border-color: var(--nettle);
      box-shadow: inset 3px 0 var(--nettle);
    }
    np-icon {
      grid-row: 1 / 3;
      font-size: 20px;
      color: var(--nettle);
    }
    .who {
      display: grid;
    }
    .what {
      font-size: 13px;
    }
    .gives {
      grid-column: 2 / -1;
      font-size: 12.5px;
      font-weight: 400;
    }
    @media (max-width: 760px) {
      .what {
        grid-column: 2 / -1;
      }
    }
  `,
})
export class TargetCardComponent {
  readonly target = input.required<LiveTarget>();
  readonly chosen = input(false);
  readonly choose = output();
  protected readonly available = computed(() => this.target().available.filter(isTold).map(sourceWords));
  protected readonly shown = computed(() => {
    const all = this.available();
    const more = all.length - SHOWN_SOURCES;
    return all.slice(0, SHOWN_SOURCES).join(', ') + (more > 0 ? ` and ${more} more` : '');
  });
  /** Pictures a second of the display of another device. */
  protected readonly rate = computed(() => {
    const { visitor, refreshMs } = this.target();
    return visitor === null || refreshMs === undefined ? undefined : Math.round(1000 / refreshMs);
  });
  protected readonly speed = computed(() => speedWords(this.target().speed));
  protected readonly missing = computed(() => this.#lacking().map(sourceWords).join(', '));
  /** What is missing and not replaced by something else. */
  readonly #lacking = computed(() => {
    const { available, missing } = this.target();
    return missing.filter((source) => isTold(source) && !available.includes(REPLACED_BY[source] ?? ''));
  });
}
