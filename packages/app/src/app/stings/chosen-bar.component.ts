import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { shortPlace, type TimeRange } from '@nettle-patch/core';
import type { NamedFunction } from '../../workers/analysis/analysis-results';

/** A part of the drawing that was clicked. */
export interface ChosenPart {
  readonly words: string;
  readonly range: TimeRange;
}

/** Where one can go from what is pointed out: its source, its calls, its place in time; or set the lens to it. */
@Component({
  selector: 'np-chosen-bar',
  imports: [MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (named(); as one) {
      <p>
        <strong [textContent]="one.name"></strong>
        <span class="figure soft" [title]="one.place" [textContent]="short(one.place)"></span>
        @if (one.place !== '') {
          <a
            mat-stroked-button
            [routerLink]="['/source', recordingId()]"
            [queryParams]="{ function: functionId() }"
            queryParamsHandling="merge"
            >Source</a
          >
        }
        <a
          mat-stroked-button
          [routerLink]="['/calls', recordingId()]"
          [queryParams]="{ function: functionId(), show: 'flat' }"
          queryParamsHandling="merge"
          >Calls</a
        >
      </p>
    }
    @if (part(); as one) {
      <p>
        <span [textContent]="one.words"></span>
        <button type="button" mat-stroked-button (click)="range.emit(one.range)">Set the lens to it</button>
        <a
          mat-stroked-button
          [routerLink]="['/timeline', recordingId()]"
          [queryParams]="{ from: one.range.startMs, to: one.range.endMs, sting: sting() }"
          queryParamsHandling="merge"
          >In time</a
        >
      </p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 4px;
    }
    :host:empty {
      display: none;
    }
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 10px;
      padding: 4px 10px;
      border-left: 3px solid var(--nettle);
      background: var(--shade);
      font-size: 13px;
    }
  `,
})
export class ChosenBarComponent {
  readonly recordingId = input.required<string>();
  readonly sting = input.required<number>();
  readonly functionId = input<number>();
  readonly named = input<NamedFunction>();
  readonly part = input<ChosenPart>();
  readonly range = output<TimeRange>();
  protected readonly short = shortPlace;
}
