import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { formatDuration } from '../shared/format';
import { IconComponent } from '../shared/icon.component';
import type { LensState } from './lens-state';

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
        <mat-chip (removed)="changed.emit(chip.without)">
          {{ chip.words }}
          <button type="button" matChipRemove [attr.aria-label]="'Take away: ' + chip.words">
            <np-icon name="close" />
          </button>
        </mat-chip>
      }
    </mat-chip-set>
    @if (chips().length > 1) {
      <button type="button" mat-button (click)="changed.emit(nothing)">Clear lens</button>
    } @else if (chips().length === 0) {
      <span class="soft">whole recording, libraries opened</span>
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
  readonly lens = input.required<LensState>();
  /** Name of the function in focus. */
  readonly focusName = input('');
  readonly changed = output<Partial<LensState>>();

  protected readonly nothing: Partial<LensState> = {
    range: undefined,
    thread: 0,
    own: true,
    foldRecursion: false,
    minMs: 0,
    focus: undefined,
    text: '',
  };

  protected readonly chips = computed(() => {
    const { range, own, foldRecursion, minMs, focus, text } = this.lens();
    const chips: LensChip[] = [];
    if (range !== undefined) {
      const lengthMs = formatDuration(range.endMs - range.startMs);
      const at = (range.startMs / 1000).toFixed(2);
      chips.push({ words: `${lengthMs} from ${at} s`, without: { range: undefined } });
    }
    if (own) chips.push({ words: 'libraries folded', without: { own: false } });
    if (foldRecursion) chips.push({ words: 'recursion folded', without: { foldRecursion: false } });
    if (minMs > 0) chips.push({ words: `calls of ${minMs} ms or more`, without: { minMs: 0 } });
    if (focus !== undefined) {
      chips.push({ words: `only ${this.focusName() || 'one function'}`, without: { focus: undefined } });
    }
    if (text !== '') chips.push({ words: `“${text}”`, without: { text: '' } });
    return chips;
  });
}
