import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { FilesService } from '../services/files.service';

/** What Stings shows while no recording is open: what to do next. */
@Component({
  selector: 'np-no-recording',
  imports: [MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>No recording is open</h2>
    <p>
      Record an app while you use it, take a recording from the shelf, or look at the demo: a tap at the
      boarding desk of Skerry Line that takes half a second.
    </p>
    <p class="actions">
      <button type="button" mat-flat-button (click)="files.importDemo()">Open the demo recording</button>
      <a mat-stroked-button routerLink="/record">Record</a>
      <a mat-stroked-button routerLink="/shelf">Shelf</a>
    </p>
  `,
  styles: `
    :host {
      display: block;
      max-width: 560px;
      margin: 14vh auto 0;
      padding: 0 20px;
    }
    h2 {
      font-size: 20px;
      margin-bottom: 8px;
    }
    .actions {
      display: flex;
      gap: 10px;
      margin-top: 18px;
    }
  `,
})
export class NoRecordingComponent {
  protected readonly files = inject(FilesService);
}
