import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import { noticeWords } from '../shared/words';

/** What was lost or could not be mapped in the open recording. */
@Component({
  selector: 'np-notices',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (words().length > 0 && !hidden()) {
      <div class="notices" role="status">
        <ul>
          @for (line of words(); track $index) {
            <li>{{ line }}</li>
          }
        </ul>
        <button type="button" mat-button (click)="hidden.set(true)">Hide</button>
      </div>
    }
  `,
  styles: `
    .notices {
      display: flex;
      align-items: flex-start;
      justify-content: space-between;
      gap: 16px;
      padding: 6px 20px;
      background: var(--notice);
      border-bottom: 1px solid var(--line);
      max-height: 120px;
      overflow: auto;
    }
    ul {
      margin: 6px 0;
      padding-left: 18px;
    }
  `,
})
export class NoticesComponent {
  readonly opened = input.required<OpenedRecording>();
  protected readonly hidden = signal(false);
  protected readonly words = computed(() => {
    const { notices, unmapped } = this.opened();
    const maps = unmapped.map(
      ({ url, problem }) => `Functions of ${url} keep the names they ran under: ${problem}.`,
    );
    return [...notices.map(noticeWords), ...maps];
  });
}
