import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { percentText, roundText, shortPlace, type Excerpt } from '@nettle-patch/core';
import { LensService } from '../services/lens.service';
import type { OpenedSting } from '../../workers/analysis/analysis-results';

/** The lines of a function that took most of a sting, with what each took. */
@Component({
  selector: 'np-excerpt',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (excerpt(); as shown) {
      <h3>
        <span [textContent]="name()"></span>,
        <a
          class="figure"
          [title]="shown.file"
          [routerLink]="['/source', recordingId()]"
          [queryParams]="{ function: shown.functionId, line: dearest() }"
          queryParamsHandling="merge"
          [textContent]="place()"
        ></a>
      </h3>
      <div class="scroll" tabindex="0" role="region" [attr.aria-label]="'Source of ' + name()">
        <table>
          <caption class="unseen">
            Lines, with what each took in this sting
          </caption>
          <tbody>
            @for (row of rows(); track row.line) {
              <tr>
                <td class="figure cost">{{ row.cost }}</td>
                <td class="bar" aria-hidden="true"><i [style.width.%]="row.share * 100"></i></td>
                <th scope="row" class="figure soft">{{ row.line }}</th>
                <td class="code" [textContent]="row.text"></td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      @if (!shown.knowsLines) {
        <p class="soft">
          Time by line is not known here: record in fine mode to see it, or with exact calls of this function
          and what it calls.
        </p>
      }
    }
  `,
  styles: `
    h3 {
      margin-bottom: 4px;
      font-size: 13px;
      font-weight: 400;
      color: var(--soft);
    }
    h3 span {
      font-weight: 700;
      color: var(--ink);
    }
    .scroll {
      overflow-x: auto;
      background: var(--panel);
      border: 1px solid var(--line);
      border-radius: 4px;
    }
    table {
      border-collapse: collapse;
      font: 13px/20px var(--mono);
    }
    td,
    th {
      padding: 0 8px;
      white-space: pre;
      font-weight: 400;
    }
    tr:first-child > * {
      padding-top: 4px;
    }
    tr:last-child > * {
      padding-bottom: 4px;
    }
    .cost,
    th {
      text-align: right;
    }
    .cost {
      min-width: 126px;
    }
    .bar {
      width: 60px;
      min-width: 60px;
      padding: 0;
    }
    .bar i {
      display: block;
      height: 11px;
      background: var(--script-own);
    }
    p {
      margin-top: 4px;
      font-size: 12.5px;
    }
  `,
})
export class ExcerptComponent {
  readonly shown = input.required<OpenedSting>();
  readonly recordingId = input.required<string>();
  readonly selected = input<number>();
  readonly #slower = inject(LensService).slower;

  /** That of the function pointed out, where it has one; else that of the dearest. */
  protected readonly excerpt = computed((): Excerpt | undefined => {
    const { excerpts } = this.shown();
    const selected = this.selected();
    const chosen = selected === undefined ? undefined : excerpts.get(selected);
    return chosen ?? [...excerpts.values()][0];
  });
  protected readonly name = computed(
    () => this.shown().functions.get(this.excerpt()!.functionId)?.name ?? '',
  );
  readonly #hottest = computed(() =>
    this.excerpt()!.lines.reduce((most, one) => (one.chargedMs > most.chargedMs ? one : most)),
  );
  protected readonly dearest = computed(() => this.#hottest().line);
  protected readonly place = computed(() => shortPlace(`${this.excerpt()!.file}:${this.dearest()}`));
  protected readonly rows = computed(() => {
    const { culprits } = this.shown().anatomy;
    const { functionId, lines } = this.excerpt()!;
    const ofMs = culprits.find((one) => one.functionId === functionId)?.chargedMs ?? 0;
    const mostMs = Math.max(this.#hottest().chargedMs, Number.MIN_VALUE);
    return lines.map(({ line, text, chargedMs }) => ({
      line,
      text,
      share: chargedMs / mostMs,
      cost:
        chargedMs === 0
          ? ''
          : `${roundText(chargedMs * this.#slower())} ms, ${percentText(chargedMs / ofMs)}`,
    }));
  });
}
