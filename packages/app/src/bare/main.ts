import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { bootstrapApplication } from '@angular/platform-browser';

/** As little as a page of the framework with its controls can be: what the interface's first picture is held against. */
@Component({
  selector: 'np-root',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<h1>Boarding desk</h1>
    <button type="button" mat-flat-button>Board all</button>`,
})
class BareComponent {}

await bootstrapApplication(BareComponent);
