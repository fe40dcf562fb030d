import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { RecordingService } from '../services/recording.service';
import { IconComponent } from '../shared/icon.component';

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
      <a [routerLink]="stings()" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="stings" />Stings</a
      >
      <a [routerLink]="calls()" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="calls" />Calls</a
      >
      <a routerLink="/shelf" routerLinkActive="on" ariaCurrentWhenActive="page"
        ><np-icon name="shelf" />Shelf</a
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
  protected readonly stings = computed(() => this.#ofOpen('/stings'));
  protected readonly calls = computed(() => this.#ofOpen('/calls'));

  #ofOpen(view: string): string[] {
    const open = this.#recordings.open();
    if (open.state === 'open') return [view, open.opened.id];
    return open.state === 'opening' ? [view, open.id] : [view];
  }
}
