import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { NavigationEnd, Router, RouterLink } from '@angular/router';
import { filter, map, startWith } from 'rxjs';
import { isBlind } from '../../workers/blindness';
import { RecordingService } from '../services/recording.service';
import { ShelfService } from '../services/shelf.service';
import { FocusNowDirective } from '../shared/focus-now.directive';
import { formatDuration } from '../shared/format';

/** Views that look into the recording that is open. */
const ANALYSIS = new Set(['Stings', 'Calls']);

/** The line above every view: what is open, what was found in it, and what can be done with it. */
@Component({
  selector: 'np-title-bar',
  imports: [MatButtonModule, RouterLink, FocusNowDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './title-bar.component.html',
  styleUrl: './title-bar.component.scss',
})
export class TitleBarComponent {
  readonly #recordings = inject(RecordingService);
  readonly #shelf = inject(ShelfService);
  readonly #router = inject(Router);
  protected readonly editing = signal(false);
  protected readonly duration = formatDuration;

  readonly #url = toSignal(
    this.#router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
      startWith(this.#router.url),
    ),
    { initialValue: '' },
  );

  protected readonly view = computed(() => {
    const name = /^\/([a-z]+)/.exec(this.#url())?.[1] ?? 'record';
    return name.charAt(0).toUpperCase() + name.slice(1);
  });

  protected readonly opened = computed(() => {
    const open = this.#recordings.open();
    return open.state === 'open' && ANALYSIS.has(this.view()) ? open.opened : undefined;
  });

  protected readonly title = computed(() => {
    const opened = this.opened();
    const kept = this.#shelf.recordings()?.find(({ id }) => id === opened?.id);
    return kept?.title ?? opened?.header.title ?? '';
  });

  protected readonly verdict = computed(() => {
    const stings = this.opened()?.stings ?? [];
    const worst = stings[0];
    if (worst === undefined) return undefined;
    const count = stings.length === 1 ? '1 sting' : `${stings.length} stings`;
    return { count, worst: formatDuration(worst.feltMs) };
  });

  protected readonly blind = computed(() => isBlind(this.opened()!.header));

  protected rename(title: string): void {
    this.editing.set(false);
    const { id } = this.opened()!;
    void this.#shelf.rename(id, title);
  }

  protected save(): void {
    void this.#recordings.saveFile(this.opened()!.id);
  }
}
