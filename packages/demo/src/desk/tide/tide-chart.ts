import { byId } from '../dom';
import type { FaultSwitches } from '../faults';

const POINTS = 4000;
const WIDTH = 240;
const HEIGHT = 44;
/** The gauge at the quay is read this often. */
const READING_MS = 60_000;
/** Hours from one high water to the next. */
const TIDE_HOURS = 12.42;

/** Metres above the chart's datum at an hour of the day, from the four largest parts of the tide. */
function tideAt(hour: number): number {
  const turn = (2 * Math.PI * hour) / TIDE_HOURS;
  return (
    1.9 +
    1.2 * Math.cos(turn) +
    0.34 * Math.cos(turn * 1.035) +
    0.2 * Math.sin(turn / 2) +
    0.06 * Math.cos(2 * turn)
  );
}

/** The line of the day's tide as the path of an SVG. */
function tidePath(fromHour: number): string {
  const points = Array.from({ length: POINTS }, (_, index) => {
    const x = (index / (POINTS - 1)) * WIDTH;
    const y = HEIGHT - (tideAt(fromHour + (index / POINTS) * 24) / 4) * HEIGHT;
    return `${x.toFixed(2)} ${y.toFixed(2)}`;
  });
  return `M${points.join('L')}`;
}

/** Draws the tide of the day: in every frame or, mended, when the gauge has been read. */
export function keepTideChart(switches: FaultSwitches): void {
  const line = byId<HTMLElement>('tide-line');
  const hourNow = () => Math.floor(Date.now() / READING_MS) / 60;

  function drawTide(): void {
    const hour = hourNow();
    line.setAttribute('d', tidePath(hour));
    byId('tide-figure').textContent = `${tideAt(hour).toFixed(1)} m`;
  }

  let running = false;
  function drawTideInEveryFrame(): void {
    drawTide();
    running = !switches.isMended('tide-chart');
    if (running) requestAnimationFrame(drawTideInEveryFrame);
  }

  function start(): void {
    if (running) return;
    running = true;
    requestAnimationFrame(drawTideInEveryFrame);
  }

  switches.onChange(() => {
    if (!switches.isMended('tide-chart')) start();
  });
  start();
  setInterval(drawTide, READING_MS);
}
