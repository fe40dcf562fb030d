import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { askedWords, shortPlace, type CauseLink, durationText } from '@nettle-patch/core';
import type { NamedFunction } from '../../workers/analysis/analysis-results';

interface Step {
  readonly words: string;
  readonly place: string;
  readonly when: string;
  readonly functionId: number | undefined;
  readonly isInput: boolean;
}

/** How what ran came to run: from what a person did, through everything that was asked for on the way. */
@Component({
  selector: 'np-cause-chain',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (steps().length > 1) {
      <h3>How it came to run</h3>
      <ol>
        @for (step of steps(); track $index) {
          <li [class.input]="step.isInput">
            @if (step.functionId !== undefined) {
              <button
                type="button"
                class="name-button"
                [title]="step.place"
                [textContent]="step.words"
                (click)="choose.emit(step.functionId)"
              ></button>
            } @else {
              <span [textContent]="step.words"></span>
            }
            <span class="figure soft">{{ step.when }}</span>
          </li>
        }
      </ol>
    }
  `,
  styles: `
    h3 {
      font-size: 13px;
      color: var(--soft);
      margin-bottom: 4px;
    }
    ol {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 0;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      max-width: 240px;
      padding: 3px 12px 4px;
      border: 1px solid var(--line);
      border-radius: 4px;
      background: var(--panel);
    }
    li.input {
      border-color: var(--sting);
    }
    li:not(:last-child) {
      margin-right: 26px;
      position: relative;
    }
    li:not(:last-child)::after {
      content: '';
      position: absolute;
      left: calc(100% + 4px);
      top: 50%;
      width: 18px;
      border-top: 1.5px solid var(--edge);
    }
    .figure {
      font-size: 12px;
    }
  `,
})
export class CauseChainComponent {
  readonly cause = input.required<readonly CauseLink[]>();
  readonly functions = input.required<ReadonlyMap<number, NamedFunction>>();
  /** When the sting began. Milliseconds. */
  readonly startMs = input.required<number>();
  readonly choose = output<number>();

  protected readonly steps = computed(() => this.cause().map((link) => this.#step(link)));

  #step(link: CauseLink): Step {
    const beforeMs = this.startMs() - link.startMs;
    const when =
      Math.abs(beforeMs) < 1
        ? 'at its beginning'
        : beforeMs > 0
          ? `${durationText(beforeMs)} before`
          : `${durationText(-beforeMs)} after it began`;
    if (link.type === 'input') {
      return { words: link.label, place: '', when, functionId: undefined, isInput: true };
    }
    const named = link.functionId === undefined ? undefined : this.functions().get(link.functionId);
    const place = shortPlace(named?.place ?? '');
    const functionId = named === undefined ? undefined : link.functionId;
    if (link.type === 'handler') {
      return { words: named?.name ?? link.entry, place, when, functionId, isInput: false };
    }
    const asked = askedWords({
      type: link.what,
      ...(link.delayMs === undefined ? {} : { delayMs: link.delayMs }),
      ...(link.url === undefined ? {} : { url: link.url }),
    });
    return { words: `asked for ${asked}`, place, when, functionId: undefined, isInput: false };
  }
}
