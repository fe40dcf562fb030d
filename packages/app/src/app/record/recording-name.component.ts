import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** Title and tags of the recording that is about to begin. */
@Component({
  selector: 'np-recording-name',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>Title</mat-label>
      <input
        matInput
        maxlength="120"
        autocomplete="off"
        [placeholder]="usual()"
        [value]="title()"
        (input)="title.set($any($event.target).value)"
      />
    </mat-form-field>
    <mat-form-field>
      <mat-label>Tags</mat-label>
      <input
        matInput
        maxlength="240"
        autocomplete="off"
        placeholder="before, list of lanes"
        [value]="tags()"
        (input)="tags.set($any($event.target).value)"
      />
    </mat-form-field>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 0 8px;
      margin-bottom: 10px;
      font-size: 13px;
      --mat-form-field-container-height: 44px;
      --mat-form-field-container-vertical-padding: 10px;
    }
  `,
})
export class RecordingNameComponent {
  /** What it is called if no title is given. */
  readonly usual = input('');
  readonly title = model('');
  /** As they are typed, with commas between them. */
  readonly tags = model('');
}
