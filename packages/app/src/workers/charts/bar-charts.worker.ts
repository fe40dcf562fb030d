import { BarController, BarElement, CategoryScale, Chart, LinearScale, type ChartItem } from 'chart.js';
import { expose } from 'comlink';
import type { BarArea, BarPicture } from './bar-picture';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

/** Draws bar charts on canvases of the page, each under a number of its own. */
class BarCharts {
  readonly #canvases = new Map<number, OffscreenCanvas>();
  readonly #charts = new Map<number, Chart<'bar'>>();

  /** Takes a font: those of the page are not those of a thread beside it. @param bytes of a font file */
  async takeFont(name: string, bytes: ArrayBuffer): Promise<void> {
    const face = await new FontFace(name, bytes).load();
    (globalThis as unknown as { fonts: { add(face: FontFace): void } }).fonts.add(face);
  }

  take(id: number, canvas: OffscreenCanvas): void {
    this.#canvases.set(id, canvas);
  }

  /** @returns where the bars are; undefined for a canvas that was given back */
  draw(id: number, picture: BarPicture): BarArea | undefined {
    const canvas = this.#canvases.get(id);
    if (canvas === undefined) return undefined;
    this.#charts.get(id)?.destroy();
    canvas.width = picture.width * picture.scale;
    canvas.height = picture.height * picture.scale;
    const chart = chartOn(canvas, picture);
    this.#charts.set(id, chart);
    return { left: chart.chartArea.left, right: chart.chartArea.right };
  }

  drop(id: number): void {
    this.#charts.get(id)?.destroy();
    this.#charts.delete(id);
    this.#canvases.delete(id);
  }
}

function chartOn(
  canvas: OffscreenCanvas,
  { labels, values, bar, ink, family, scale }: BarPicture,
): Chart<'bar'> {
  const ticks = { color: ink, font: { size: 10, family } };
  return new Chart(canvas as unknown as ChartItem, {
    type: 'bar',
    data: {
      labels: [...labels],
      datasets: [{ data: [...values], backgroundColor: bar, barPercentage: 1, categoryPercentage: 0.92 }],
    },
    options: {
      animation: false,
      responsive: false,
      devicePixelRatio: scale,
      events: [],
      scales: {
        x: { grid: { display: false }, ticks: { maxTicksLimit: 3, maxRotation: 0, ...ticks } },
        y: { beginAtZero: true, ticks: { maxTicksLimit: 3, precision: 0, ...ticks } },
      },
    },
  });
}

export type BarChartsThread = BarCharts;

expose(new BarCharts());
