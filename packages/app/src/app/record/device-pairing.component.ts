import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { TAG_PATH, type ListedTarget, clockText } from '@nettle-patch/core';
import { AppsService } from '../services/apps.service';
import { LanService } from '../services/lan.service';
import { LiveService } from '../services/live.service';
import { AppChoiceComponent } from './app-choice.component';
import { IconComponent } from '../shared/icon.component';
import { ScanCodeComponent } from './scan-code.component';

/** Lets phones and tablets of the room join by a code, shows which have, and turns them away. */
@Component({
  selector: 'np-device-pairing',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatSelectModule,
    AppChoiceComponent,
    IconComponent,
    ScanCodeComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './device-pairing.component.html',
  styleUrl: './device-pairing.component.scss',
})
export class DevicePairingComponent {
  protected readonly lan = inject(LanService);
  readonly #live = inject(LiveService);
  protected readonly apps = inject(AppsService);
  /** Origin of the server of the app that was chosen. */
  protected readonly app = signal<string | undefined>(undefined);
  protected readonly address = signal<string | undefined>(undefined);
  protected readonly nowMs = signal(Date.now());

  protected readonly open = computed(() => {
    const state = this.lan.state();
    return state.open ? state : undefined;
  });
  protected readonly addresses = computed(() => {
    const state = this.lan.state();
    return state.open ? [] : state.addresses;
  });
  protected readonly left = computed(() =>
    clockText(Math.max(0, (this.open()?.untilMs ?? 0) - this.nowMs())).replace(/\.\d$/, ''),
  );
  protected readonly devices = computed(() => {
    const targets = this.#live.state().targets;
    return (this.open()?.devices ?? []).map(({ id, address }) => {
      const pages = targets.filter(({ visitor }) => visitor === id);
      return { id, address, words: wordsFor(pages.at(-1)), pages: pages.length };
    });
  });

  /** The element by which a page is recorded that does not come through here. */
  protected readonly tag = computed(() => {
    const room = this.open();
    return room === undefined
      ? ''
      : `<script src="${room.origin}${TAG_PATH}" data-code="${room.code}"></script>`;
  });
  protected readonly copied = computed(() => this.#copiedTag() === this.tag());
  readonly #copiedTag = signal<string | undefined>(undefined);
  readonly #clipboard = inject(Clipboard);

  constructor() {
    const ends = [this.lan.watch()];
    const clock = setInterval(() => this.nowMs.set(Date.now()), 1000);
    ends.push(() => clearInterval(clock));
    inject(DestroyRef).onDestroy(() => ends.forEach((end) => end()));
  }

  protected copyTag(): void {
    const tag = this.tag();
    if (this.#clipboard.copy(tag)) this.#copiedTag.set(tag);
  }
}

function wordsFor(page: ListedTarget | undefined): string {
  return page === undefined ? 'let in, no page open' : `${page.device} · ${page.engine}`;
}
