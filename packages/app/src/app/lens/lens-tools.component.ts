import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';

/** Controls of the lens that every view has: least length, text, and the thread where there are several. */
@Component({
  selector: 'np-lens-tools',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (threads().length > 1) {
      <label
        >Thread
        <select (change)="lens.change({ thread: +$any($event.target).value })">
          @for (thread of threads(); track thread.id) {
            <option [value]="thread.id" [selected]="thread.id === lens.lens().thread">
              {{ thread.name }}
            </option>
          }
        </select>
      </label>
    }
    <label
      >At least
      <input
        type="number"
        min="0"
        step="any"
        [value]="lens.lens().minMs || ''"
        placeholder="0"
        (change)="lens.change({ minMs: +$any($event.target).value || 0 })"
      />
      ms</label
    >
    <label class="find"
      ><span class="soft">{{ found() }}</span>
      <input
        type="search"
        [placeholder]="placeholder()"
        [attr.aria-label]="placeholder()"
        [value]="lens.lens().text"
        (input)="lens.change({ text: $any($event.target).value }, true)"
      />
    </label>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 14px;
      font-size: 13px;
    }
    input,
    select {
      font: inherit;
      color: inherit;
      background: var(--panel);
      padding: 6px 8px;
      border: 1px solid var(--edge);
      border-radius: 4px;
    }
    input[type='number'] {
      width: 62px;
    }
    input[type='search'] {
      width: 190px;
    }
    .find {
      display: flex;
      align-items: center;
      gap: 8px;
    }
  `,
})
export class LensToolsComponent {
  readonly placeholder = input('Find names');
  /** What was found for the text, in words. */
  readonly found = input('');
  protected readonly lens = inject(LensService);
  readonly #opened = inject(RecordingService).opened;
  protected readonly threads = computed(() => this.#opened()?.threads ?? []);
}
