import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ReportService } from './report.service';
import { textOfTable } from './table-text';

/** Copies a table as text. */
@Component({
  selector: 'np-copy-table',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" mat-button [attr.aria-label]="'Copy as text: ' + label()" (click)="copy()">
      Copy as text
    </button>
  `,
})
export class CopyTableComponent {
  readonly #reports = inject(ReportService);
  readonly table = input.required<HTMLTableElement>();
  /** What the table is. */
  readonly label = input.required<string>();

  protected copy(): void {
    this.#reports.copy(textOfTable(this.table()), 'Copied as text.');
  }
}
