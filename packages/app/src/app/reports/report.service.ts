import { Clipboard } from '@angular/cdk/clipboard';
import { Injectable, inject } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { firstValueFrom, type Observable } from 'rxjs';
import type { ReportForm } from '../../workers/analysis/report-form';
import { saveBlob } from '../shared/save-blob';
import { pictureOf } from './picture-file';

const TOLD_MS = 4000;

/** Hands reports to a person: Markdown to the clipboard, pictures and pages as files. */
@Injectable({ providedIn: 'root' })
export class ReportService {
  readonly #clipboard = inject(Clipboard);
  readonly #snackBar = inject(MatSnackBar);

  /**
   * @param text the report: Markdown, an SVG drawing, or an HTML page; none is handed over where none comes
   * @param title what files are named after
   */
  async hand(form: ReportForm, text: Observable<string>, title: string): Promise<void> {
    const report = await firstValueFrom(text, { defaultValue: undefined });
    if (report === undefined) return;
    const name = fileNameOf(title);
    if (form === 'page') return saveBlob(new Blob([report], { type: 'text/html' }), `${name}.html`);
    if (form === 'picture') return this.#savePicture(report, `${name}.png`);
    this.copy(report, 'Copied as Markdown.', ' Save the page instead.');
  }

  /**
   * Copies a text.
   * @param done what is said then
   * @param instead what can be done where the browser does not allow it
   */
  copy(text: string, done: string, instead = ''): void {
    const isCopied = this.#clipboard.copy(text);
    this.#tell(isCopied ? done : `The browser did not allow copying.${instead}`);
  }

  async #savePicture(svg: string, name: string): Promise<void> {
    try {
      saveBlob(await pictureOf(svg), name);
    } catch (error) {
      this.#tell(`The picture could not be made: ${(error as Error).message}. Save the page instead.`);
    }
  }

  #tell(words: string): void {
    this.#snackBar.open(words, 'Close', { duration: TOLD_MS });
  }
}

/** A title as the name of a file, without its ending. */
export function fileNameOf(title: string): string {
  const plain = title.replaceAll(/[^\p{L}\p{N}]+/gu, '-').replaceAll(/^-|-$/g, '');
  return plain || 'recording';
}
