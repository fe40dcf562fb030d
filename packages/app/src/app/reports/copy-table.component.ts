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
  /** The table, or its text where not all of it is on the page. */
  readonly table = input.required<HTMLTableElement | (() => string)>();
  /** What the table is. */
  readonly label = input.required<string>();

  protected copy(): void {
    const table = this.table();
    this.#reports.copy(typeof table === 'function' ? table() : textOfTable(table), 'Copied as text.');
  }
}
