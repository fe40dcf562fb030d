import { decimalText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { shownParts } from '../../shared/words';
import type { OpenedSting } from '../../../workers/analysis/analysis-results';

/** The content of the anatomy drawing for those who cannot see it. */
@Component({
  selector: 'np-anatomy-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'unseen' },
  template: `
    <table>
      <caption>
        Phases of the delay, and what each was spent on
      </caption>
      <thead>
        <tr>
          <th scope="col">phase</th>
          <th scope="col">milliseconds</th>
          <th scope="col">spent on</th>
          <th scope="col">code</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.name) {
          <tr>
            <th scope="row">{{ row.name }}</th>
            <td>{{ row.lengthMs }}</td>
            <td>{{ row.parts }}</td>
            <td>{{ row.code }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
})
export class AnatomyTableComponent {
  readonly shown = input.required<OpenedSting>();

  protected readonly rows = computed(() => {
    const { anatomy, functions } = this.shown();
    return anatomy.phases.map(({ name, startMs, endMs, blame, culprits }) => ({
      name,
      lengthMs: decimalText(endMs - startMs, 1),
      parts: shownParts(blame)
        .map((part) => `${part.name} ${decimalText(part.ms, 1)}`)
        .join(', '),
      code: culprits
        .map(({ functionId, chargedMs }) => `${functions.get(functionId)?.name} ${decimalText(chargedMs, 1)}`)
        .join(', '),
    }));
  });
}
