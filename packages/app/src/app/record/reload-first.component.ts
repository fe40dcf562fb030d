import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { ProxySettings, Target } from '@nettle-patch/core';
import { LiveService } from '../services/live.service';
import { modeOf } from './capture-mode.component';

/** The source of a recording that is there only where the page was loaded for a mode. */
const SOURCES = { everyday: undefined, fine: 'fine-samples', exact: 'exact-calls' } as const;

/** Whether a page was loaded so that it can be looked at as closely, and in such a way, as is wanted. */
export function isLoadedFor(target: Target, settings: ProxySettings): boolean {
  const mode = modeOf(settings, target);
  const source = SOURCES[mode];
  if (source === undefined || !target.url.startsWith('http')) return true;
  const isCloser = mode !== 'fine' || (target.closer ?? '') === settings.closer;
  const isIsolated = (target.isolated ?? settings.isolate) === settings.isolate;
  return isCloser && isIsolated && target.available.includes(source);
}

/** Says that a page was loaded for another way of recording than the one that is chosen, and loads it again. */
@Component({
  selector: 'np-reload-first',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      The page was loaded before this was chosen: it holds once it is loaded again.
      <button type="button" mat-stroked-button (click)="live.reload(target().id)">Reload the page</button>
    </p>
  `,
  styles: `
    p {
      display: grid;
      gap: 8px;
      justify-items: start;
      margin: 0 0 12px;
      padding: 10px 12px;
      background: var(--nettle-soft);
      border-left: 3px solid var(--nettle);
      font-size: 13px;
    }
  `,
})
export class ReloadFirstComponent {
  protected readonly live = inject(LiveService);
  readonly target = input.required<Target>();
}
