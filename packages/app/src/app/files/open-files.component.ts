import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { FilesService } from '../services/files.service';
import { IconComponent } from '../shared/icon.component';

/** The button through which files are brought: each goes where it belongs. */
@Component({
  selector: 'np-open-files',
  imports: [MatButtonModule, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" mat-stroked-button (click)="file.click()">
      <np-icon name="file" /> {{ words() }}
    </button>
    <input
      #file
      type="file"
      hidden
      multiple
      accept=".jsonl,.gz,.json,.har,.txt,.folded"
      aria-label="Recording file"
      (change)="open(file)"
    />
  `,
})
export class OpenFilesComponent {
  readonly #files = inject(FilesService);
  /** What stands on the button. */
  readonly words = input.required<string>();

  protected open(field: HTMLInputElement): void {
    const files = [...(field.files ?? [])];
    field.value = '';
    void this.#files.open(files);
  }
}
