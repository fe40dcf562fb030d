import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { fromBase64, type VersusOutcome } from '@nettle-patch/core';
import { of } from 'rxjs';
import { FilesService } from '../services/files.service';
import type { ReportForm } from '../../workers/analysis/report-form';
import { ReportMenuComponent } from '../reports/report-menu.component';
import { ReportService } from '../reports/report.service';

/** @param zipped a compressed recording, as base64 */
function recordingFile(zipped: string): Blob {
  return new Blob([new Uint8Array(fromBase64(zipped))], { type: 'application/gzip' });
}

/** What came of two versions that were held against each other. */
@Component({
  selector: 'np-versus-outcome',
  imports: [MatButtonModule, ReportMenuComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h3>
        {{ outcome().slower === 0 ? 'Nothing is slower in B, as far as it can be told' : 'Slower in B' }}
      </h3>
      <span class="ways">
        <button type="button" mat-stroked-button (click)="openTypical()">Compare the typical loads</button>
        <np-report-menu (report)="report($event)" />
      </span>
    </div>
    <p class="figure">A: {{ outcome().before }}<br />B: {{ outcome().after }}</p>
    <table>
      <thead>
        <tr>
          <th scope="col">what was done</th>
          <th scope="col">A</th>
          <th scope="col">B</th>
          <th scope="col">B is</th>
          <th scope="col">difference</th>
        </tr>
      </thead>
      <tbody>
        @for (row of outcome().rows; track $index) {
          <tr>
            @for (cell of row; track $index; let at = $index) {
              <td [class.over]="at === 3 && cell === 'slower'">{{ cell }}</td>
            }
          </tr>
        }
      </tbody>
    </table>
    <p class="soft">{{ outcome().words }}</p>
  `,
  styles: `
    .head {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 12px;
    }
    .ways {
      display: flex;
      gap: 8px;
    }
    h3 {
      margin: 0;
      font-size: 15px;
    }
    table {
      width: 100%;
      margin: 8px 0;
      border-collapse: collapse;
      font-size: 13.5px;
    }
    th,
    td {
      padding: 4px 12px 4px 0;
      text-align: left;
      vertical-align: top;
      border-bottom: 1px solid var(--line);
    }
    th {
      color: var(--soft);
      font-weight: 400;
    }
    p {
      font-size: 13px;
      overflow-wrap: anywhere;
    }
  `,
})
export class VersusOutcomeComponent {
  readonly #reports = inject(ReportService);
  readonly #files = inject(FilesService);
  readonly outcome = input.required<VersusOutcome>();
  /** Another view is shown. */
  readonly left = output();

  /** Puts the load of each side that is nearest to the medians on the shelf, and holds them against each other. */
  protected async openTypical(): Promise<void> {
    const { before, after } = this.outcome().typical;
    if (await this.#files.compare(recordingFile(before), recordingFile(after))) this.left.emit();
  }

  protected report(form: ReportForm): void {
    void this.#reports.hand(form, of(this.outcome()[form]), 'A against B');
  }
}
