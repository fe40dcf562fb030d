import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import type { KeptRecording } from '../../store/database';
import { RecordingService } from '../services/recording.service';
import { ShelfService } from '../services/shelf.service';
import { formatBytes, formatDate, formatDuration } from '../shared/format';
import { FocusNowDirective } from '../shared/focus-now.directive';
import { IconComponent } from '../shared/icon.component';
import { CardSkylineComponent } from './card-skyline.component';

/** The recordings kept in this browser: open, rename, save, delete. */
@Component({
  selector: 'np-shelf',
  imports: [
    MatButtonModule,
    MatMenuModule,
    RouterLink,
    IconComponent,
    CardSkylineComponent,
    FocusNowDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shelf.component.html',
  styleUrl: './shelf.component.scss',
})
export class ShelfComponent {
  protected readonly shelf = inject(ShelfService);
  protected readonly recordings = inject(RecordingService);
  protected readonly renaming = signal<string | undefined>(undefined);
  protected readonly bytes = formatBytes;
  protected readonly date = formatDate;
  protected readonly duration = formatDuration;

  protected openFile(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (file !== undefined) void this.recordings.importFile(file);
  }

  protected rename(id: string, title: string): void {
    if (this.renaming() !== id) return;
    this.renaming.set(undefined);
    void this.shelf.rename(id, title);
  }

  protected async remove(recording: KeptRecording): Promise<void> {
    const open = this.recordings.open();
    if (open.state === 'open' && open.opened.id === recording.id) this.recordings.close();
    await this.shelf.remove(recording.id);
  }
}
