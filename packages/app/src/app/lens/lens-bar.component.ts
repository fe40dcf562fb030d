import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { formatDuration } from '../shared/format';
import { IconComponent } from '../shared/icon.component';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { USUAL_LENS, type LensState } from './lens-state';

interface LensChip {
  readonly words: string;
  readonly without: Partial<LensState>;
}

/** What all views of a recording obey, as chips that can be taken away. */
@Component({
  selector: 'np-lens-bar',
  imports: [MatButtonModule, MatChipsModule, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="soft">Lens</span>
    <mat-chip-set aria-label="Lens">
      @for (chip of chips(); track chip.words) {
        <mat-chip (removed)="change(chip.without)">
          {{ chip.words }}
          <button type="button" matChipRemove [attr.aria-label]="'Take away: ' + chip.words">
            <np-icon name="close" />
          </button>
        </mat-chip>
      }
    </mat-chip-set>
    @if (chips().length > 0) {
      <button type="button" mat-button (click)="change(usual)">Clear lens</button>
    } @else {
      <span class="soft">whole recording, main thread, libraries folded</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 10px;
      min-height: 40px;
      padding: 3px 18px;
      border-bottom: 1px solid var(--line);
      font-size: 13px;
    }
  `,
})
export class LensBarComponent {
  readonly #lens = inject(LensService);
  readonly #recordings = inject(RecordingService);
  protected readonly usual = USUAL_LENS;
  readonly #focusName = this.#recordings.functionName(computed(() => this.#lens.lens().focus));

  protected readonly chips = computed(() => {
    const { range, thread, own, foldRecursion, minMs, focus, text } = this.#lens.lens();
    const chips: LensChip[] = [];
    if (range !== undefined) {
      const lengthMs = formatDuration(range.endMs - range.startMs);
      const at = (range.startMs / 1000).toFixed(2);
      chips.push({ words: `${lengthMs} from ${at} s`, without: { range: undefined } });
    }
    if (thread !== 0) chips.push({ words: this.#threadName(thread), without: { thread: 0 } });
    if (!own) chips.push({ words: 'libraries opened', without: { own: true } });
    if (foldRecursion) chips.push({ words: 'recursion folded', without: { foldRecursion: false } });
    if (minMs > 0) chips.push({ words: `${minMs} ms or more`, without: { minMs: 0 } });
    if (focus !== undefined) {
      chips.push({ words: `only ${this.#focusName() || 'one function'}`, without: { focus: undefined } });
    }
    if (text !== '') chips.push({ words: `“${text}”`, without: { text: '' } });
    return chips;
  });

  protected change(part: Partial<LensState>): void {
    this.#lens.change(part);
  }

  #threadName(thread: number): string {
    return this.#recordings.opened()?.threads.find(({ id }) => id === thread)?.name ?? `thread ${thread}`;
  }
}
