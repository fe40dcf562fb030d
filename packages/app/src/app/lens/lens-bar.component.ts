import { numberText, secondsText, durationText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { IconComponent } from '../shared/icon.component';
import { AddressService } from '../services/address.service';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { lensReach } from './lens-reach';
import { USUAL_LENS, type LensState } from './lens-state';

/** A phone of the middle price, an old one, and a very slow one beside a developer's computer, roughly. */
const FACTORS = [2, 4, 8];

interface LensChip {
  readonly words: string;
  /** Whether the view obeys it. */
  readonly applies: boolean;
  readonly without: Partial<LensState>;
}

/** What all views of a recording obey, as chips that can be taken away. */
@Component({
  selector: 'np-lens-bar',
  imports: [MatButtonModule, MatChipsModule, ChoiceComponent, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="soft">Lens</span>
    <mat-chip-set aria-label="Lens">
      @for (chip of chips(); track chip.words) {
        <mat-chip
          [class.idle]="!chip.applies"
          [title]="chip.applies ? '' : 'This view does not do that. It holds again in one that does.'"
          (removed)="change(chip.without)"
        >
          {{ chip.words }}{{ chip.applies ? '' : ', not in this view' }}
          <button type="button" matChipRemove [attr.aria-label]="'Remove from lens: ' + chip.words">
            <np-icon name="close" />
          </button>
        </mat-chip>
      }
    </mat-chip-set>
    @if (chosen.functionId() !== undefined) {
      <mat-chip-set aria-label="Chosen function">
        <mat-chip class="chosen" (removed)="chosen.choose(undefined)">
          chosen: {{ chosen.name() }}
          <button type="button" matChipRemove [attr.aria-label]="'Clear chosen function ' + chosen.name()">
            <np-icon name="close" />
          </button>
        </mat-chip>
      </mat-chip-set>
    }
    @if (chips().length > 0) {
      <button type="button" mat-button (click)="change(usual)">Clear lens</button>
    } @else {
      <span class="soft">{{ reach().usual }}</span>
    }
    <np-choice
      class="soft"
      title="Lengths in Stings and Calls"
      label="Lengths in Stings and Calls"
      [options]="devices()"
      [value]="slower()"
      (choose)="change({ slower: $event })"
    />
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
    .idle {
      color: var(--soft);
      outline: 1px dashed var(--edge);
      outline-offset: -1px;
    }
    .chosen {
      box-shadow: inset 0 -3px var(--ink);
    }
    np-choice {
      margin-left: auto;
      --choice-width: 268px;
    }
  `,
})
export class LensBarComponent {
  readonly #lens = inject(LensService);
  readonly #address = inject(AddressService);
  readonly #recordings = inject(RecordingService);
  protected readonly chosen = inject(ChosenFunctionService);
  protected readonly usual = USUAL_LENS;
  readonly #focusNames = this.#recordings.functionNames(computed(() => this.#lens.lens().focus));

  protected readonly slower = this.#lens.slower;
  protected readonly devices = computed((): readonly ChoiceOption<number>[] =>
    [...new Set([1, ...FACTORS, this.slower()])].map((value) => ({
      value,
      words: value === 1 ? 'as recorded' : `on a device ${value} × slower, estimated`,
    })),
  );

  /** What the view that is shown does with the lens. */
  protected readonly reach = computed(() => lensReach(this.#address.view(), this.#address.query()['show']));
  protected readonly chips = computed((): LensChip[] => {
    const { range, thread, foldLibraries, foldRecursion, minMs, focus, text, slower } = this.#lens.lens();
    const chips: LensChip[] = [];
    const add = (isSet: boolean, part: keyof LensState, words: () => string) => {
      if (!isSet) return;
      const without = { [part]: USUAL_LENS[part] };
      chips.push({ words: words(), without, applies: this.reach().parts.has(part) });
    };
    add(range !== undefined, 'range', () => {
      const { startMs, endMs } = range!;
      return `${durationText(endMs - startMs)} from ${secondsText(startMs)}`;
    });
    add(thread !== 0, 'thread', () => this.#threadName(thread));
    add(!foldLibraries, 'foldLibraries', () => 'libraries opened');
    add(foldRecursion, 'foldRecursion', () => 'recursion folded');
    add(minMs > 0, 'minMs', () => `${numberText(minMs)} ms or more`);
    for (const [at, functionId] of focus.entries()) {
      const words = `${at === 0 ? 'only' : 'or'} ${this.#focusNames()[at] ?? 'one function'}`;
      const without = { focus: focus.filter((one) => one !== functionId) };
      chips.push({ words, without, applies: this.reach().parts.has('focus') });
    }
    add(slower > 1, 'slower', () => `≈ ${slower} × slower device`);
    add(text !== '', 'text', () => `“${text}”`);
    return chips;
  });

  protected change(part: Partial<LensState>): void {
    this.#lens.change(part);
  }

  #threadName(thread: number): string {
    return this.#recordings.opened()?.threads.find(({ id }) => id === thread)?.name ?? `thread ${thread}`;
  }
}
