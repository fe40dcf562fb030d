import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { OpenFilesComponent } from '../files/open-files.component';
import { FilesService } from '../services/files.service';
import { TrialShelfService } from '../services/trial-shelf.service';
import { NEW_TRIAL } from './new-trial';
import { TrialListComponent } from './trial-list.component';

/** The trials that are kept, and ways to begin one. */
@Component({
  selector: 'np-trials',
  imports: [MatButtonModule, OpenFilesComponent, TrialListComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <p class="about">
        Time alternatives for a piece of code against each other, before you decide which to keep.
      </p>
      <span class="grow"></span>
      <button type="button" mat-flat-button (click)="begin()">New trial</button>
      <button type="button" mat-stroked-button (click)="files.openDemoTrial()">Open the demo trial</button>
      <np-open-files words="Open a file" />
    </div>
    <div class="body">
      @if (trials().length > 0) {
        <np-trial-list [trials]="trials()" />
      } @else if (shelf.trials() !== undefined) {
        <p class="soft none">
          Nothing is kept yet. Begin with a function in Source (“Try alternatives”), with an empty trial, or
          with the demo: three ways to fold accents.
        </p>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
      min-height: 0;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 10px;
      padding: 8px 20px;
      border-bottom: 1px solid var(--line);
    }
    .about {
      margin: 0;
      font-size: 15px;
    }
    .grow {
      flex: 1;
    }
    .body {
      min-height: 0;
      padding: 16px 20px;
      overflow: auto;
    }
    .none {
      max-width: 62ch;
      margin: 18vh auto 0;
    }
  `,
})
export class TrialsComponent {
  protected readonly files = inject(FilesService);
  protected readonly shelf = inject(TrialShelfService);
  readonly #router = inject(Router);

  protected trials() {
    return this.shelf.trials() ?? [];
  }

  protected async begin(): Promise<void> {
    await this.#router.navigate(['/trials', await this.shelf.add(NEW_TRIAL)]);
  }
}
