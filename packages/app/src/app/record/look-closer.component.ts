import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { SettingsService } from '../services/settings.service';

/** Has the next recording tell of every call of one function and of all that it calls, and leads to where it is made. */
@Component({
  selector: 'np-look-closer',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      mat-stroked-button
      [title]="'Record again, with every call of ' + name() + ' and all that it calls; the rest in fine mode'"
      (click)="lookCloser(); $event.stopPropagation()"
    >
      Look closer
    </button>
  `,
})
export class LookCloserComponent {
  readonly #settings = inject(SettingsService);
  readonly #router = inject(Router);
  readonly name = input.required<string>();
  /** Where the function begins: "file:line:column". */
  readonly start = input.required<string>();

  protected lookCloser(): void {
    this.#settings.change({ mode: 'fine', closer: this.start() });
    void this.#router.navigate(['/record']);
  }
}
