import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { atRest } from '../shared/at-rest';
import { IconComponent } from '../shared/icon.component';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';

/** Nobody types any more after this. */
const TYPING_MS = 200;

/** Controls of the lens that every view has: least length, text, and the thread where there are several. */
@Component({
  selector: 'np-lens-tools',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ChoiceComponent, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (threads().length > 1) {
      <np-choice
        title="Thread"
        label="Thread"
        [options]="threads()"
        [value]="lens.lens().thread"
        (choose)="lens.change({ thread: $event })"
      />
    }
    <label class="least"
      >At least
      <mat-form-field class="compact">
        <input
          matInput
          type="number"
          min="0"
          step="any"
          [value]="lens.lens().minMs || ''"
          placeholder="0"
          (change)="lens.change({ minMs: +$any($event.target).value || 0 })"
        />
      </mat-form-field>
      ms</label
    >
    <span class="find"
      ><span class="soft">{{ found() }}</span>
      <mat-form-field class="compact">
        <input
          matInput
          type="search"
          [placeholder]="placeholder()"
          [attr.aria-label]="placeholder()"
          [value]="typed()"
          (input)="typed.set($any($event.target).value)"
          (keydown.enter)="step.emit(1)"
          (keydown.shift.enter)="step.emit(-1)"
        />
      </mat-form-field>
      @if (canStep()) {
        <button type="button" mat-icon-button aria-label="Hit before" (click)="step.emit(-1)">
          <np-icon name="previous" />
        </button>
        <button type="button" mat-icon-button aria-label="Next hit" (click)="step.emit(1)">
          <np-icon name="next" />
        </button>
      }
    </span>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 14px;
      font-size: 13px;
    }
    .least,
    .find {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .least mat-form-field {
      width: 72px;
    }
    .find mat-form-field {
      width: 176px;
    }
  `,
})
export class LensToolsComponent {
  readonly placeholder = input('Find names');
  /** What was found for the text, in words. */
  readonly found = input('');
  /** Whether there are hits that one can go to. */
  readonly canStep = input(false);
  /** To the next hit, or the one before. */
  readonly step = output<1 | -1>();
  protected readonly lens = inject(LensService);
  /** The text that went into the address last. */
  #sent: string | undefined;
  /** The text as it is typed. It goes into the address once nobody types. */
  protected readonly typed = linkedSignal<string, string>({
    source: () => this.lens.lens().text,
    // What was typed while the address took the text before is kept.
    computation: (text, previous) => (text === this.#sent && previous ? previous.value : text),
  });
  readonly #opened = inject(RecordingService).opened;
  protected readonly threads = computed((): readonly ChoiceOption<number>[] =>
    (this.#opened()?.threads ?? []).map(({ id, name }) => ({ value: id, words: name })),
  );

  constructor() {
    const atRestText = atRest(this.typed, TYPING_MS);
    effect(() => {
      const text = atRestText();
      const isNew =
        text !== undefined && text === untracked(this.typed) && text !== untracked(this.lens.lens).text;
      if (!isNew) return;
      this.#sent = text;
      this.lens.change({ text }, true);
    });
  }
}
