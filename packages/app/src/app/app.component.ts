import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { RecordingService } from './services/recording.service';
import { ConnectionBannerComponent } from './shell/connection-banner.component';
import { RailComponent } from './shell/rail.component';
import { TitleBarComponent } from './shell/title-bar.component';

/** The frame around every view: rail, title line, and the place where files are dropped. */
@Component({
  selector: 'np-root',
  imports: [RouterOutlet, RailComponent, TitleBarComponent, ConnectionBannerComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(dragover)': 'dragOver($event)',
    '(dragleave)': 'dropping.set(false)',
    '(drop)': 'drop($event)',
  },
  template: `
    <np-rail />
    <div class="body">
      <np-title-bar />
      <np-connection-banner />
      <main><router-outlet /></main>
    </div>
    @if (dropping()) {
      <div class="drop"><p>Drop the recording to open it</p></div>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 76px 1fr;
      height: 100vh;
      min-width: 0;
    }
    .body {
      display: grid;
      grid-template-rows: auto auto 1fr;
      min-width: 0;
      min-height: 0;
    }
    main {
      min-height: 0;
      min-width: 0;
      grid-row: 3;
      overflow: hidden;
      display: grid;
      grid-template: minmax(0, 1fr) / minmax(0, 1fr);
    }
    router-outlet {
      display: none;
    }
    .drop {
      position: fixed;
      inset: 12px;
      z-index: 10;
      display: grid;
      place-items: center;
      border: 3px dashed var(--nettle);
      border-radius: 10px;
      background: rgb(229 239 230 / 92%);
      font-size: 20px;
      pointer-events: none;
    }
  `,
})
export class AppComponent {
  readonly #recordings = inject(RecordingService);
  protected readonly dropping = signal(false);

  protected dragOver(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.dropping.set(true);
  }

  protected drop(event: DragEvent): void {
    const file = event.dataTransfer?.files[0];
    if (file === undefined) return;
    event.preventDefault();
    this.dropping.set(false);
    void this.#recordings.importFile(file);
  }
}
