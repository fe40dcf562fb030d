import { decimalText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { LiveHang } from '../../workers/live/live-state';

const SHOWN_CALLERS = 4;

/** A hang that goes on: how long by now, and in which code. */
@Component({
  selector: 'np-hang',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="lead">
      The page has been hanging for <span class="figure over">{{ seconds() }} s</span>
    </p>
    @if (hang().calls[0]; as innermost) {
      <p class="where">
        in <strong>{{ innermost.name }}</strong>
        <span class="figure soft">{{ innermost.place }}</span>
      </p>
      <p class="soft callers">
        @for (caller of callers(); track $index) {
          ← {{ caller.name }}
        }
      </p>
    } @else {
      <p class="soft">
        Which code it hangs in cannot be seen: choose fine or exact calls, and to see into hangs.
      </p>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 720px;
      margin-bottom: 18px;
      padding: 14px 18px;
      background: var(--sting-soft);
      border-left: 4px solid var(--sting);
    }
    p {
      margin: 0;
    }
    .lead {
      font-size: 20px;
    }
    .where {
      font-size: 17px;
    }
    .callers {
      font-size: 13px;
    }
  `,
})
export class HangComponent {
  readonly hang = input.required<LiveHang>();
  protected readonly seconds = computed(() => decimalText(this.hang().durationMs / 1000, 1));
  protected readonly callers = computed(() => this.hang().calls.slice(1, 1 + SHOWN_CALLERS));
}
