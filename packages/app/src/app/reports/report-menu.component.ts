import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import type { ReportForm } from '../../workers/analysis/report-form';

/** Ways to pass on what is shown, to people who have not got the tool. */
@Component({
  selector: 'np-report-menu',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" mat-stroked-button [matMenuTriggerFor]="menu">Report</button>
    <mat-menu #menu="matMenu">
      <button mat-menu-item (click)="report.emit('markdown')">Copy as Markdown</button>
      @if (hasPicture()) {
        <button mat-menu-item (click)="report.emit('picture')">Save picture</button>
      }
      <button mat-menu-item (click)="report.emit('page')">Save page</button>
    </mat-menu>
  `,
})
export class ReportMenuComponent {
  /** Whether it can be drawn. */
  readonly hasPicture = input(true);
  readonly report = output<ReportForm>();
}
