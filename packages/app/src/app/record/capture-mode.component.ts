import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatRadioModule } from '@angular/material/radio';
import type { Target } from '@nettle-patch/core';
import { LiveService } from '../services/live.service';
import { SettingsService } from '../services/settings.service';

/** Whether a page was loaded so that it can be looked at as closely as is wanted. */
export function isLoadedFor(target: Target, exact: boolean): boolean {
  const isPage = target.url.startsWith('http');
  return !exact || !isPage || target.available.includes('exact-calls');
}

/** Chooses how closely to look, and says what that costs and gives. */
@Component({
  selector: 'np-capture-mode',
  imports: [MatButtonModule, MatCheckboxModule, MatRadioModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3 id="capture-mode-title">How closely</h3>
    <mat-radio-group
      aria-labelledby="capture-mode-title"
      [value]="settings.settings().mode"
      (change)="settings.change({ mode: $event.value })"
    >
      <mat-radio-button value="everyday">
        <strong>Everyday</strong>
        <span class="soft">{{ everyday() }}</span>
      </mat-radio-button>
      <mat-radio-button value="exact">
        <strong>Exact calls</strong>
        <span class="soft">
          Every call is recorded, in any browser. Scripts are rewritten on their way, and run slower.
        </span>
      </mat-radio-button>
    </mat-radio-group>
    @if (exact()) {
      <div class="more">
        <mat-checkbox
          [checked]="settings.settings().isolate"
          (change)="settings.change({ isolate: $event.checked })"
        >
          See into hangs while they last
        </mat-checkbox>
        <p class="soft">
          Isolates the page. What it loads from other origins, and their sign-in windows, may then not work.
        </p>
        <label>
          Leave scripts alone whose address holds
          <input
            type="text"
            placeholder="node_modules, vendor"
            [value]="settings.settings().leaveOut.join(', ')"
            (change)="leaveOut($any($event.target).value)"
          />
        </label>
      </div>
    }
    @if (settings.problem(); as problem) {
      <p class="over" role="alert">{{ problem }}</p>
    }
    @if (mustReload()) {
      <p class="reload" role="status">
        This page was loaded before. Its calls are recorded once it is loaded again.
        <button type="button" mat-stroked-button (click)="live.reload(target()!.id)">Reload the page</button>
      </p>
    }
  `,
  styleUrl: './capture-mode.component.scss',
})
export class CaptureModeComponent {
  protected readonly settings = inject(SettingsService);
  protected readonly live = inject(LiveService);
  readonly target = input<Target>();

  protected readonly exact = computed(() => this.settings.settings().mode === 'exact');
  protected readonly mustReload = computed(() => {
    const target = this.target();
    return target !== undefined && !isLoadedFor(target, this.exact());
  });
  protected readonly everyday = computed(() =>
    this.target()?.missing.includes('js-self-profiling')
      ? 'Light. This browser gives no call stacks: handlers, forced layout and drawing are still measured.'
      : 'Light. Call stacks are sampled every 10 ms: short calls can be missed.',
  );

  protected leaveOut(text: string): void {
    const leaveOut = text.split(',').map((part) => part.trim());
    this.settings.change({ leaveOut: leaveOut.filter((part) => part !== '') });
  }
}
