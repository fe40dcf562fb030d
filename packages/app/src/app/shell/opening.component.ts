import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RecordingService } from '../services/recording.service';

/** What a view of a recording shows until it is open: how far it is, or why it could not be opened. */
@Component({
  selector: 'np-opening',
  imports: [MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failure(); as words) {
      <div role="alert">
        <h2>This recording could not be opened</h2>
        <p>{{ words }}</p>
      </div>
    } @else {
      <div role="status">
        <p>Opening the recording…</p>
        <mat-progress-bar
          [mode]="share() > 0 ? 'determinate' : 'indeterminate'"
          [value]="share() * 100"
          aria-label="Opening the recording"
        />
        <p class="doing soft">
          {{ share() < 1 ? 'Reading its rows' : 'Looking for stings' }}
          <button type="button" mat-stroked-button (click)="recordings.cancel()">Cancel</button>
        </p>
      </div>
      <div class="skeleton" aria-hidden="true"><i></i><i></i><i></i><i></i></div>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 560px;
      margin: 14vh auto 0;
      padding: 0 20px;
    }
    .doing {
      display: flex;
      align-items: center;
      justify-content: space-between;
      margin-top: 8px;
    }
    .skeleton {
      margin-top: 28px;
    }
    .skeleton i {
      display: block;
      height: 30px;
      margin-bottom: 12px;
      border-radius: 4px;
      background: var(--shade);
    }
    h2 {
      font-size: 20px;
      margin-bottom: 8px;
    }
  `,
})
export class OpeningComponent {
  protected readonly recordings = inject(RecordingService);
  readonly #open = this.recordings.open;
  protected readonly failure = computed(() => {
    const open = this.#open();
    return open.state === 'failed' ? open.words : undefined;
  });
  protected readonly share = computed(() => {
    const open = this.#open();
    return open.state === 'opening' ? open.share : 0;
  });
}
