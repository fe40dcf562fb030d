import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatExpansionModule } from '@angular/material/expansion';
import { MatRadioModule } from '@angular/material/radio';
import { Router } from '@angular/router';
import { cleanTags } from '../../store/tags';
import { LanService } from '../services/lan.service';
import { LiveService } from '../services/live.service';
import { RecordingService } from '../services/recording.service';
import { FilesService } from '../services/files.service';
import { SettingsService } from '../services/settings.service';
import { ShortcutsService } from '../services/shortcuts.service';
import { OpenFilesComponent } from '../files/open-files.component';
import { IconComponent } from '../shared/icon.component';
import { AppsComponent } from './apps.component';
import { CaptureModeComponent } from './capture-mode.component';
import { ReloadFirstComponent, isLoadedFor } from './reload-first.component';
import { LiveStageComponent } from './live-stage.component';
import { KeptInputsComponent } from './kept-inputs.component';
import { RecordingNameComponent } from './recording-name.component';
import { PhoneComponent } from './phone.component';
import { DevicePairingComponent } from './device-pairing.component';
import { TargetCardComponent } from './target-card.component';

/** Chooses what to record and how, and shows the recording while it runs. */
@Component({
  selector: 'np-record',
  host: { '(document:keydown)': 'onKey($event)' },
  imports: [
    MatButtonModule,
    MatExpansionModule,
    MatRadioModule,
    IconComponent,
    OpenFilesComponent,
    AppsComponent,
    PhoneComponent,
    DevicePairingComponent,
    TargetCardComponent,
    LiveStageComponent,
    CaptureModeComponent,
    KeptInputsComponent,
    RecordingNameComponent,
    ReloadFirstComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './record.component.html',
  styleUrl: './record.component.scss',
})
export class RecordComponent {
  readonly #live = inject(LiveService);
  readonly #router = inject(Router);
  readonly #settings = inject(SettingsService);
  protected readonly recordings = inject(RecordingService);
  protected readonly files = inject(FilesService);
  readonly #lan = inject(LanService);
  readonly #shortcuts = inject(ShortcutsService);
  protected readonly state = this.#live.state;
  protected readonly withNextLoad = signal(false);
  /** What is in use is not hidden. */
  protected readonly showsPairing = signal(false);
  protected readonly showsNative = signal(false);
  /** What the recording will be called, and its tags as they are typed. */
  protected readonly title = signal('');
  protected readonly tags = signal('');
  readonly #chosenId = signal<string | undefined>(undefined);

  /** The target chosen by hand, else the one in front, else the latest. */
  protected readonly chosen = computed(() => {
    const { targets } = this.state();
    const byHand = targets.find(({ id }) => id === this.#chosenId());
    return byHand ?? targets.findLast(({ visible }) => visible) ?? targets.at(-1);
  });

  /** What a recording is called that nobody gives a title: titles of pages are shown and not kept. */
  protected readonly usualTitle = computed(() => (this.chosen()?.url ?? '').replace(/^https?:\/\//, ''));

  protected readonly recording = computed(() => this.state().recording);
  protected readonly keptWords = computed(() => {
    const { steps, labels } = this.#settings.settings();
    const kept = { off: 'no steps', places: 'steps', texts: 'steps, words typed' }[steps];
    return labels === 'texts' ? `${kept}, words on controls` : kept;
  });

  /** What begins with the next load may begin in a page that was loaded otherwise. */
  protected readonly mustReload = computed(() => {
    const target = this.chosen();
    if (target === undefined || this.withNextLoad()) return false;
    return !isLoadedFor(target, this.#settings.settings());
  });
  protected readonly canStart = computed(() => this.chosen() !== undefined && !this.mustReload());

  constructor() {
    effect(() => this.#lan.state().open && this.showsPairing.set(true));
    effect(() => {
      if (this.state().targets.some(({ url }) => url.startsWith('app:'))) this.showsNative.set(true);
    });
    effect(() => {
      const recording = this.recording();
      if (recording?.state !== 'ended' || recording.problem !== undefined) return;
      this.show(recording.id);
    });
  }

  protected choose(id: string): void {
    this.#chosenId.set(id);
  }

  protected start(): void {
    const target = this.chosen();
    if (target === undefined) return;
    const named = { title: this.title().trim(), tags: cleanTags(this.tags().split(',')) };
    this.#live.start(target.id, this.withNextLoad(), named);
    this.title.set('');
  }

  protected onKey(event: KeyboardEvent): void {
    const isIdle = this.recording() === null && this.canStart();
    if (event.key === 'r' && isIdle && this.#shortcuts.mayAct(event)) this.start();
  }

  /** Puts the recording that ended away and opens it. */
  protected show(id: string): void {
    this.#live.dismiss();
    this.recordings.close();
    void this.#router.navigate(['/stings', id]);
  }
}
