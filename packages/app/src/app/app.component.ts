import { ChangeDetectionStrategy, Component, effect, inject, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterOutlet } from '@angular/router';
import { GroundStripComponent } from './ground-strip/ground-strip.component';
import { LensBarComponent } from './lens/lens-bar.component';
import { AddressService } from './services/address.service';
import { ReceivedService } from './services/received.service';
import { RecordingService } from './services/recording.service';
import { FilesService } from './services/files.service';
import { scheduleTask } from './shared/schedule-task';
import { ThemeService } from './services/theme.service';
import { ShellKeys } from './shell/shell-keys';
import { ConnectionBannerComponent } from './shell/connection-banner.component';
import { RailComponent } from './shell/rail.component';
import { NoticesComponent } from './shell/notices.component';
import { ReadingComponent } from './shell/reading.component';
import { TitleBarComponent } from './shell/title-bar.component';

/** The frame around every view: rail, title line, and the place where files are dropped. */
@Component({
  selector: 'np-root',
  imports: [
    RouterOutlet,
    RailComponent,
    TitleBarComponent,
    ConnectionBannerComponent,
    LensBarComponent,
    GroundStripComponent,
    NoticesComponent,
    ReadingComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(dragover)': 'dragOver($event)',
    '(dragleave)': 'dropping.set(false)',
    '(drop)': 'drop($event)',
    '(document:keydown)': 'keys.take($event)',
  },
  template: `
    <np-rail />
    <div class="body">
      <np-title-bar [hasActions]="built() > 2" />
      <np-connection-banner />
      <np-reading />
      @if (analysed(); as opened) {
        <np-notices [opened]="opened" />
        <div class="lens">
          @if (built() > 0) {
            <np-lens-bar />
          }
        </div>
      }
      <main><router-outlet /></main>
      @if (analysed(); as opened) {
        <div class="strip">
          @if (built() > 1) {
            <np-ground-strip [opened]="opened" />
          }
        </div>
      }
    </div>
    @if (dropping()) {
      <div class="drop"><p>Drop recordings, or steps to be done</p></div>
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
      display: flex;
      flex-direction: column;
      min-width: 0;
      min-height: 0;
    }
    .lens {
      min-height: 40px;
    }
    .strip {
      height: 64px;
    }
    main {
      position: relative;
      flex: 1;
      min-height: 0;
      min-width: 0;
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
      background: color-mix(in srgb, var(--nettle-soft) 92%, transparent);
      font-size: 20px;
      pointer-events: none;
    }
  `,
})
export class AppComponent {
  readonly #recordings = inject(RecordingService);
  readonly #files = inject(FilesService);
  readonly #address = inject(AddressService);
  protected readonly keys = inject(ShellKeys);
  protected readonly analysed = this.#recordings.analysed;
  protected readonly dropping = signal(false);

  /** How much of the frame around a recording is there: built part by part, so that none of them holds up an input. */
  protected readonly built = signal(0);

  constructor() {
    inject(ThemeService);
    inject(ReceivedService);
    this.#files.steps$.pipe(takeUntilDestroyed()).subscribe((steps) => this.keys.replay({ steps }));
    effect(() => {
      if (this.analysed() === undefined || untracked(this.built) > 0) return;
      scheduleTask(() => this.built.set(1));
      scheduleTask(() => this.built.set(2));
      scheduleTask(() => this.built.set(3));
    });
    effect(() => {
      const opened = this.analysed();
      if (opened?.header.timeless !== true || this.#address.view() === 'calls') return;
      void this.#address.go('calls', opened.id);
    });
  }

  protected dragOver(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.dropping.set(true);
  }

  protected drop(event: DragEvent): void {
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    this.dropping.set(false);
    void this.#files.open(files);
  }
}
