import { durationText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import { partWords } from '../shared/words';
import { stripRows } from './strip-rows';

const MAX_ROWS = 20;

/** The ground strip as a table, for those who cannot see the drawing. */
@Component({
  selector: 'np-strip-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="unseen">
      <caption>
        The recording in
        {{
          rows().length
        }}
        parts of equal length
      </caption>
      <thead>
        <tr>
          <th scope="col">part</th>
          <th scope="col">busy</th>
          <th scope="col">stings</th>
          <th scope="col">inputs</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.when) {
          <tr>
            <th scope="row">{{ row.when }}</th>
            <td>{{ row.busy }}</td>
            <td>{{ row.stings }}</td>
            <td>{{ row.inputs }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
})
export class StripTableComponent {
  readonly opened = input.required<OpenedRecording>();
  protected readonly rows = computed(() =>
    stripRows(this.opened(), MAX_ROWS).map(({ startMs, endMs, parts, stings, inputs }) => ({
      when: `${durationText(startMs)} to ${durationText(endMs)}`,
      busy: parts.map(({ part, ms }) => `${partWords(part)} ${durationText(ms)}`).join(', ') || 'idle',
      stings,
      inputs,
    })),
  );
}
