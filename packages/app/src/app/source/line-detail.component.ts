import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { msText } from '@nettle-patch/core';
import type { ShownFile } from '../../workers/analysis/queries/source-queries';
import { countWords, forcedWords, selfWords, totalWords } from './line-words';

/** What is known of the line that the cursor is on, and what was called from it. */
@Component({
  selector: 'np-line-detail',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="The line of the cursor" tabindex="0">
      <span class="figure">line {{ line() }}</span>
      <span [textContent]="words()"></span>
      @if (calls().length > 0) {
        <span class="soft">calls</span>
        @for (call of calls(); track call.functionId) {
          <span>
            <a
              [routerLink]="['/source', recordingId()]"
              [queryParams]="{ function: call.functionId, file: null, line: null }"
              queryParamsHandling="merge"
              [textContent]="call.name"
            ></a>
            <span class="figure">&nbsp;{{ ms(call.totalMs) }}</span>
          </span>
        }
      }
    </section>
  `,
  styles: `
    section {
      display: flex;
      gap: 6px 14px;
      overflow-x: auto;
      padding: 6px 16px;
      border-top: 1px solid var(--line);
      background: var(--shade);
      font-size: 12.5px;
      white-space: nowrap;
    }
  `,
})
export class LineDetailComponent {
  readonly file = input.required<ShownFile>();
  /** From 1. */
  readonly line = input.required<number>();
  readonly recordingId = input.required<string>();
  readonly #shown = computed(() => this.file().lines.find(({ line }) => line === this.line()));
  protected readonly calls = computed(() => this.#shown()?.calls ?? []);
  protected readonly words = computed(() => {
    const line = this.#shown();
    if (line === undefined) return 'no time was seen here';
    const isMore = line.calls.length > 0 || line.samples === 0;
    return [
      ...(line.selfMs > 0 ? [selfWords(line)] : []),
      ...(isMore && line.totalMs > 0 ? [totalWords(line)] : []),
      ...(line.count > 0 ? [countWords(line)] : []),
      ...(line.forcedCount > 0 ? [forcedWords(line)] : []),
    ].join('; ');
  });
  protected readonly ms = msText;
}
