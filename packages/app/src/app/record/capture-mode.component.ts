import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatExpansionModule } from '@angular/material/expansion';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import {
  exactCostWords,
  modeFor,
  type CaptureMode,
  type ProxySettings,
  type Target,
} from '@nettle-patch/core';
import type { StoredRecording } from '../../store/database';
import { SettingsService } from '../services/settings.service';
import { ShelfService } from '../services/shelf.service';

const hasSampler = (target: Target | undefined) => target?.missing.includes('js-self-profiling') !== true;

/** How closely a page is looked at that is loaded now. */
export function modeOf(settings: ProxySettings, target: Target | undefined): CaptureMode {
  return modeFor(settings, hasSampler(target));
}

/** "one", "one and another", "one, another and 3 more". */
function listed(names: readonly string[]): string {
  const [first = '', second = ''] = names;
  if (names.length <= 2) return names.join(' and ');
  return `${first}, ${second} and ${names.length - 2} more`;
}

/** Chooses how closely to look, and says what that costs and gives for the page that is chosen. */
@Component({
  selector: 'np-capture-mode',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatExpansionModule,
    MatFormFieldModule,
    MatInputModule,
    MatRadioModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3 id="capture-mode-title">How closely</h3>
    <mat-radio-group
      aria-labelledby="capture-mode-title"
      [value]="mode()"
      (change)="settings.change({ mode: $event.value })"
    >
      <mat-radio-button value="everyday">
        <strong>Everyday</strong>
        <span class="soft">{{ everyday() }}</span>
      </mat-radio-button>
      <mat-radio-button value="fine">
        <strong>Fine</strong>
        <span class="soft">{{ fine() }}</span>
      </mat-radio-button>
      <mat-radio-button value="exact">
        <strong>Exact calls</strong>
        <span class="soft">
          Every call with its times; of quick functions one of many. Scripts are rewritten, and run slower.
          {{ exactCost() }}
        </span>
      </mat-radio-button>
    </mat-radio-group>
    @if (mode() !== 'everyday') {
      <div class="more">
        @if (mode() === 'fine' && settings.settings().closer !== '') {
          <p class="closer">
            <span>
              Closer at <code class="figure">{{ settings.settings().closer }}</code>: every call of it, and
              all that it calls.
            </span>
            <button type="button" mat-stroked-button (click)="settings.change({ closer: '' })">
              Stop looking closer
            </button>
          </p>
        }
        <mat-expansion-panel class="mat-elevation-z0">
          <mat-expansion-panel-header>
            <mat-panel-title>Hangs, scripts to skip</mat-panel-title>
          </mat-expansion-panel-header>
          <mat-checkbox
            [checked]="settings.settings().isolate"
            (change)="settings.change({ isolate: $event.checked })"
          >
            See into hangs while they last
          </mat-checkbox>
          <p class="soft">
            Isolates the page. {{ foreign() }}
            @if (mode() === 'fine') {
              Samples are then taken from outside: the lines of loops without calls are sampled, too, and not
              estimated.
            }
          </p>
          <mat-form-field>
            <mat-label>Skip scripts whose address contains</mat-label>
            <input
              matInput
              type="text"
              placeholder="node_modules, vendor"
              [value]="settings.settings().leaveOut.join(', ')"
              (change)="leaveOut($any($event.target).value)"
            />
          </mat-form-field>
        </mat-expansion-panel>
      </div>
    }
    @if (settings.problem(); as problem) {
      <p class="over" role="alert">{{ problem }}</p>
    }
  `,
  styleUrl: './capture-mode.component.scss',
})
export class CaptureModeComponent {
  protected readonly settings = inject(SettingsService);
  readonly #shelf = inject(ShelfService);
  readonly target = input<Target>();

  protected readonly mode = computed(() => modeOf(this.settings.settings(), this.target()));
  protected readonly everyday = computed(() =>
    hasSampler(this.target())
      ? 'Light. Call stacks are sampled every 10 ms, without lines: short calls can be missed.'
      : 'Light. This browser gives no call stacks: handlers, forced layout and drawing are still measured.',
  );
  protected readonly fine = computed(() => {
    const instead = hasSampler(this.target()) ? '' : ' This browser has no sampler of its own.';
    return `A sample every millisecond with its line, and how often each function is called. Scripts are rewritten, and run slower, as a rule by less than half.${instead}`;
  });

  /** What exact calls would cost this page, as the latest recording of it in fine mode has counted. */
  protected readonly exactCost = computed(() => {
    const target = this.target();
    const known = this.#shelf
      .recordings()
      ?.filter(({ targetUrl, engine }) => targetUrl === target?.url && engine === target.engine)
      .filter(({ verdict }) => verdict?.exactFactor !== undefined)
      .reduce<StoredRecording | undefined>(
        (latest, one) => (latest === undefined || one.createdAt > latest.createdAt ? one : latest),
        undefined,
      );
    if (known === undefined) return 'A recording in fine mode tells beforehand how much.';
    return `${exactCostWords(known.verdict!.exactFactor!)} (“${known.title}”)`;
  });

  /** What isolating the page would touch of what it holds. */
  protected readonly foreign = computed(() => {
    const target = this.target();
    if (target?.foreign === undefined)
      return 'What it loads from other origins, and their sign-in windows, may then not work.';
    const { frames, origins } = target.foreign;
    const parts = [
      ...(frames.length === 0 ? [] : [`The ${listed(frames)} will not load.`]),
      ...(origins.length === 0
        ? []
        : [
            /WebKit/.test(target.engine)
              ? `Files from ${listed(origins)} load only where their servers allow it.`
              : `Files from ${listed(origins)} are asked for without cookies.`,
          ]),
    ];
    const rest = 'Windows of other origins that it opens cannot answer it.';
    return parts.length === 0
      ? `It holds nothing from other origins so far. ${rest}`
      : `${parts.join(' ')} ${rest}`;
  });

  protected leaveOut(text: string): void {
    const leaveOut = text.split(',').map((part) => part.trim());
    this.settings.change({ leaveOut: leaveOut.filter((part) => part !== '') });
  }
}
