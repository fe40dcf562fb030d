import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { LiveService } from '../services/live.service';
import type { ConnectionState } from '../../workers/live/live-state';

const WORDS: Partial<Record<ConnectionState, string>> = {
  lost: 'The connection to the Nettle Patch server is lost. Trying again every second; kept recordings can be read meanwhile. If the server was stopped, start it again.',
  'wrong-secret':
    'The server was started anew since this page was opened. Open the address it printed; your recordings are still here.',
  'no-secret':
    'This page was opened without its key. Open the address that the server printed, whole, to record; kept recordings can be read meanwhile.',
};

const ELSEWHERE =
  'Another tab of Nettle Patch is recording: it shows what runs, and only it writes the recording. This tab goes on with it when that one is closed.';

/** Says when and why there is no connection to the server, and what to do. */
@Component({
  selector: 'np-connection-banner',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (words(); as words) {
      <p role="status">{{ words }}</p>
    }
  `,
  styles: `
    p {
      padding: 8px 20px;
      background: var(--sting-soft);
      border-bottom: 1px solid var(--line);
    }
  `,
})
export class ConnectionBannerComponent {
  readonly #live = inject(LiveService);
  protected readonly words = computed(() => {
    const { connection, elsewhere } = this.#live.state();
    return WORDS[connection] ?? (elsewhere ? ELSEWHERE : undefined);
  });
}
