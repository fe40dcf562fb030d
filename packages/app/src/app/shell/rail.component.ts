import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive, type IsActiveMatchOptions } from '@angular/router';
import { RecordingService } from '../services/recording.service';
import { LensService } from '../services/lens.service';
import { IconComponent, type IconName } from '../shared/icon.component';

/** Views that look into a recording. */
const ANALYSIS: readonly { readonly name: string; readonly icon: IconName }[] = [
  { name: 'Stings', icon: 'stings' },
  { name: 'Timeline', icon: 'timeline' },
  { name: 'Calls', icon: 'calls' },
  { name: 'Source', icon: 'source' },
];

/** The narrow column of views. */
@Component({
  selector: 'np-rail',
  imports: [RouterLink, RouterLinkActive, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <img src="leaf.svg" alt="Nettle Patch" width="32" height="32" />
    <nav aria-label="Views">
      <a routerLink="/record" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="record" />Record</a
      >
      @for (link of analysis(); track link.name) {
        <a
          [routerLink]="link.to"
          [queryParams]="lens.query()"
          routerLinkActive="on"
          [routerLinkActiveOptions]="ofPath"
          ariaCurrentWhenActive="page"
          ><np-icon [name]="link.icon" />{{ link.name }}</a
        >
      }
      <a routerLink="/compare" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="compare" />Compare</a
      >
      <a routerLink="/shelf" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="shelf" />Shelf</a
      >
      <a routerLink="/trials" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="trials" />Trials</a
      >
    </nav>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      background: var(--shade);
      border-right: 1px solid var(--line);
      padding-top: 14px;
    }
    img {
      align-self: center;
      margin-bottom: 12px;
    }
    a {
      display: grid;
      place-items: center;
      gap: 2px;
      height: 58px;
      align-content: center;
      color: var(--soft);
      font-size: 12px;
      text-decoration: none;
      position: relative;
    }
    a:hover {
      color: var(--ink);
    }
    a.on {
      color: var(--nettle);
      font-weight: 700;
    }
    a.on::before {
      content: '';
      position: absolute;
      inset: 8px auto 8px 0;
      width: 3px;
      background: var(--nettle);
      border-radius: 0 2px 2px 0;
    }
    np-icon {
      font-size: 17px;
    }
  `,
})
export class RailComponent {
  readonly #recordings = inject(RecordingService);
  /** Without times there is nothing to show but how much each stack took. */
  readonly #isTimeless = computed(() => this.#recordings.opened()?.header.timeless === true);
  protected readonly lens = inject(LensService);
  /** A link is lit whatever the lens is. */
  protected readonly ofPath: IsActiveMatchOptions = {
    paths: 'subset',
    queryParams: 'ignored',
    matrixParams: 'ignored',
    fragment: 'ignored',
  };
  protected readonly analysis = computed(() =>
    ANALYSIS.filter(({ name }) => name === 'Calls' || !this.#isTimeless()).map((view) => ({
      ...view,
      to: this.#ofOpen(`/${view.name.toLowerCase()}`),
    })),
  );

  #ofOpen(view: string): string[] {
    const open = this.#recordings.open();
    if (open.state === 'open') return [view, open.opened.id];
    return open.state === 'opening' ? [view, open.id] : [view];
  }
}
