import { Injectable } from '@angular/core';
import { transfer, wrap, type Remote } from 'comlink';
import { FIGURE_FONT_NAME } from '../shared/canvas-fonts';
import { fontFile } from '../shared/font-file';
import type { BarArea, BarPicture } from '../../workers/charts/bar-picture';
import type { BarChartsThread } from '../../workers/charts/bar-charts.worker';

/** A canvas that is drawn on by another thread. */
export interface BarCanvas {
  /** @returns where the bars are; undefined when it was given up meanwhile */
  draw(picture: BarPicture): Promise<BarArea | undefined>;
  giveUp(): void;
}

/** Gives the thread the font of figures; where it cannot be had, another stands in for it. */
async function giveFont(thread: Remote<BarChartsThread>): Promise<void> {
  const url = fontFile(FIGURE_FONT_NAME);
  if (url === undefined) return;
  const bytes = await (await fetch(url)).arrayBuffer();
  await thread.takeFont(FIGURE_FONT_NAME, transfer(bytes, [bytes]));
}

/** Has bar charts drawn by a thread of its own, so that drawing them holds up no input. */
@Injectable({ providedIn: 'root' })
export class BarChartsService {
  #thread: Remote<BarChartsThread> | undefined;
  /** Resolves once the thread has the font of figures, or it is known that there is none for it. */
  #font: Promise<void> = Promise.resolve();
  #last = 0;

  /** Takes a canvas that nothing was drawn on yet. */
  take(canvas: HTMLCanvasElement): BarCanvas {
    const thread = (this.#thread ??= this.#start());
    const id = ++this.#last;
    const offscreen = canvas.transferControlToOffscreen();
    void thread.take(id, transfer(offscreen, [offscreen]));
    return {
      draw: async (picture) => {
        await this.#font;
        return thread.draw(id, picture);
      },
      giveUp: () => void thread.drop(id),
    };
  }

  /** One that ends by itself takes its canvases with it; the next canvas gets another. */
  #start(): Remote<BarChartsThread> {
    const worker = new Worker(new URL('../../workers/charts/bar-charts.worker', import.meta.url), {
      type: 'module',
      name: 'bar charts',
    });
    worker.addEventListener('error', () => (this.#thread = undefined), { once: true });
    const thread = wrap<BarChartsThread>(worker);
    this.#font = giveFont(thread).catch(() => undefined);
    return thread;
  }
}
