import { percentText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { FilesService } from '../services/files.service';

/** How far the reading of a file is, and the way out of it. */
@Component({
  selector: 'np-reading',
  imports: [MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (share() !== undefined) {
      <div role="status">
        <span
          >Reading the file… <span class="figure">{{ words() }}</span></span
        >
        <mat-progress-bar
          [mode]="share()! > 0 ? 'determinate' : 'indeterminate'"
          [value]="share()! * 100"
          aria-label="Reading the file"
        />
        <button type="button" mat-stroked-button (click)="files.cancel()">Cancel</button>
      </div>
    }
  `,
  styles: `
    div {
      display: grid;
      grid-template-columns: 190px 1fr auto;
      align-items: center;
      gap: 16px;
      padding: 6px 20px;
      border-bottom: 1px solid var(--line);
      background: var(--nettle-soft);
    }
  `,
})
export class ReadingComponent {
  protected readonly files = inject(FilesService);
  protected readonly share = this.files.importing.asReadonly();
  protected readonly words = computed(() => percentText(this.share() ?? 0));
}
