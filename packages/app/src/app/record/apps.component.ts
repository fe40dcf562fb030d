import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { AppsService } from '../services/apps.service';
import { IconComponent } from '../shared/icon.component';

/** The apps that can be opened to be recorded; others are added, by what answers here or by their addresses. */
@Component({
  selector: 'np-apps',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './apps.component.html',
  styleUrl: './apps.component.scss',
})
export class AppsComponent {
  protected readonly apps = inject(AppsService);
  protected readonly address = new FormControl('', { nonNullable: true });

  constructor() {
    this.apps.problem.set('');
    void this.apps.look();
  }

  /** What the server would not have is said at the field, until something else stands in it. */
  protected async add(): Promise<void> {
    if (await this.apps.add(this.address.value)) {
      this.address.reset();
      return;
    }
    this.address.setErrors({ refused: true });
    this.address.markAsTouched();
  }
}
