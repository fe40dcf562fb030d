import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  DEFAULT_THRESHOLDS,
  durationText,
  clockText,
  bytesText,
  percentText,
  shortPlace,
} from '@nettle-patch/core';
import type { LiveRecording } from '../../workers/live/live-state';
import { LiveService } from '../services/live.service';
import { PreferencesService } from '../services/preferences.service';
import { IconComponent } from '../shared/icon.component';
import { ShortcutsService } from '../services/shortcuts.service';
import { problemWords } from '../shared/words';
import { HangComponent } from './hang.component';
import { LiveSkylineComponent } from './live-skyline.component';

const TITLES: Record<LiveRecording['state'], string> = {
  starting: 'Starting…',
  'waiting-for-load': 'Waiting for the next load of the page',
  recording: 'Recording',
  paused: 'Paused',
  stopping: 'Stopping…',
  finishing: 'Fetching sources…',
  ended: 'Ended',
  failed: 'Recording failed',
};

/** How many times the budget a bar of an input can show. */
const BUDGETS_SHOWN = 2.5;

/** Before, a rate would be a guess. */
const FIRST_RATE_MS = 3000;

/** A recording while it runs: how long, how busy, what was done and how long that took. */
@Component({
  selector: 'np-live-stage',
  imports: [MatButtonModule, IconComponent, HangComponent, LiveSkylineComponent],
  host: { '(document:keydown)': 'onKey($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './live-stage.component.html',
  styleUrl: './live-stage.component.scss',
})
export class LiveStageComponent {
  protected readonly live = inject(LiveService);
  readonly #shortcuts = inject(ShortcutsService);
  readonly #preferences = inject(PreferencesService);
  readonly recording = input.required<LiveRecording>();
  readonly show = output();

  protected readonly title = computed(() => TITLES[this.recording().state]);
  protected readonly problem = computed(() => {
    const { problem } = this.recording();
    return problem === undefined ? undefined : problemWords(problem);
  });
  protected readonly figures = computed(() => {
    const { elapsedMs, bytes, busyShare, costShare, roomBytes } = this.recording();
    return {
      rate: elapsedMs < FIRST_RATE_MS ? '–' : bytesText((bytes / elapsedMs) * 60_000),
      room: roomBytes === undefined ? '' : bytesText(roomBytes),
      elapsed: clockText(elapsedMs),
      size: bytesText(bytes),
      busy: percentText(busyShare),
      cost: percentText(costShare),
    };
  });
  /** What an input may take, as it is set. Milliseconds. */
  protected readonly budgetMs = computed(
    () => this.#preferences.now().thresholds['responseMs'] ?? DEFAULT_THRESHOLDS.responseMs,
  );
  /** The same of a task of the main thread. */
  protected readonly taskBudgetMs = computed(
    () => this.#preferences.now().thresholds['longTaskMs'] ?? DEFAULT_THRESHOLDS.longTaskMs,
  );
  protected readonly short = shortPlace;
  protected readonly duration = durationText;
  protected readonly clock = clockText;

  protected onKey(event: KeyboardEvent): void {
    if (this.recording().state !== 'recording' || !this.#shortcuts.mayAct(event)) return;
    if (event.key === 'm') this.mark();
    else if (event.key === 'r') this.live.stop();
  }

  protected mark(): void {
    this.live.note(`mark at ${clockText(this.recording().elapsedMs)}`);
  }

  protected barWidth(feltMs: number): string {
    return `${Math.min(100, (feltMs / (this.budgetMs() * BUDGETS_SHOWN)) * 100)}%`;
  }
}
