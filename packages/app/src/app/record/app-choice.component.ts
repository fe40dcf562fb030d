import { ChangeDetectionStrategy, Component, inject, model } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { AppsService } from '../services/apps.service';

/** Chooses among the apps that are served, where there is more than one; the first until another is chosen. */
@Component({
  selector: 'np-app-choice',
  imports: [MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (apps.served().length > 1) {
      <mat-form-field>
        <mat-label>App</mat-label>
        <mat-select [value]="app() ?? apps.served()[0]?.target" (valueChange)="app.set($event)">
          @for (one of apps.served(); track one.target) {
            <mat-option [value]="one.target">{{ one.target }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
    }
  `,
})
export class AppChoiceComponent {
  protected readonly apps = inject(AppsService);
  /** Origin of the server of the app. */
  readonly app = model<string>();
}
