import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  memoryWords,
  runText,
  trialHowWords,
  trialSentences,
  whereWords,
  type AlternativeResult,
  type Trial,
  type TrialRun,
} from '@nettle-patch/core';
import { TrialPlotComponent } from './trial-plot.component';

/** What came of a trial in one place: each alternative on one axis, and what can be said of them. */
@Component({
  selector: 'np-trial-outcome',
  imports: [TrialPlotComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ where() }}</h2>
    <table>
      <thead>
        <tr>
          <th scope="col" class="name">alternative</th>
          <th scope="col">each start on one axis, from nothing to {{ most() }}</th>
          <th scope="col" class="right">a run, median</th>
          <th scope="col" class="right">memory a run</th>
        </tr>
      </thead>
      <tbody>
        @for (one of run().result.alternatives; track $index) {
          <tr>
            <th scope="row">{{ one.name }}</th>
            <td><np-trial-plot [alternative]="one" [mostMs]="mostMs()" /></td>
            <td class="right figure">{{ one.medianMs === undefined ? 'not timed' : text(one.medianMs) }}</td>
            <td class="right figure soft">{{ memory(one) }}</td>
          </tr>
        }
      </tbody>
    </table>
    <ul>
      @for (sentence of sentences(); track sentence) {
        <li>{{ sentence }}</li>
      }
    </ul>
    <p class="soft how">{{ how() }}</p>
  `,
  styleUrl: './trial-outcome.component.scss',
})
export class TrialOutcomeComponent {
  readonly trial = input.required<Trial>();
  readonly run = input.required<TrialRun>();

  protected readonly text = runText;
  protected readonly memory = (one: AlternativeResult) =>
    one.medianMs === undefined ? '' : memoryWords(one);
  protected readonly where = computed(() => whereWords(this.run()));
  protected readonly mostMs = computed(() =>
    this.run()
      .result.alternatives.flatMap(({ runMs }) => runMs)
      .reduce((most, ms) => Math.max(most, ms), Number.MIN_VALUE),
  );
  protected readonly most = computed(() => runText(this.mostMs()));
  protected readonly sentences = computed(() => trialSentences(this.trial(), this.run().result));
  protected readonly how = computed(() => trialHowWords(this.run().result));
}
