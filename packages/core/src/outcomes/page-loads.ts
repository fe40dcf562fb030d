import type { Interaction } from '../inputs/interactions';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording } from '../recording/recording';
import { originalPath } from '../recording/original-path';
import type { Chain } from './chain';

/** A page that a recording went on to. */
export interface PageLoad {
  /** When the browser began to load it. */
  readonly beganMs: number;
  /** When its answer had come; undefined where that is not known. */
  readonly answeredMs: number | undefined;
  /** When it first showed something. */
  readonly paintMs: number | undefined;
  readonly path: string;
}

/** A link is followed, and a form sent, within this after the listeners of the event have run. */
const FOLLOWED_MS = 100;
/** Two pages are joined by the system's clock. */
const CLOCKS_APART_MS = 5;

/** The pages that a recording went on to, in order of time; the one it began in is none. */
export const pageLoadsOf = memoizedPerRecording((recording): readonly PageLoad[] => {
  const states = [...recording.events.state.rows()];
  const requests = [...recording.events.request.rows()].filter(({ initiator }) => initiator === 'navigation');
  const begins = states.filter(
    ({ type, value, startMs }) => type === 'load' && value === 'began' && startMs > 0,
  );
  return begins.map(({ startMs: beganMs }, index) => {
    const untilMs = begins[index + 1]?.startMs ?? Infinity;
    const within = states.filter(({ startMs }) => startMs > beganMs && startMs < untilMs);
    const paints = within.filter(({ type }) => type === 'paint');
    const paint = paints.find(({ value }) => value === 'first-contentful-paint') ?? paints[0];
    const route = within.find(({ type }) => type === 'route');
    const request = requests.find(({ startMs }) => Math.abs(startMs - beganMs) < CLOCKS_APART_MS);
    return {
      beganMs,
      answeredMs: request && request.startMs + request.durationMs,
      paintMs: paint?.startMs,
      path: `/${originalPath(route?.value ?? null)}`,
    };
  });
});

/** The page that an input led to: the browser began to load it while what the input set going ran, or right after. */
export function pageAfter(
  recording: Recording,
  interaction: Interaction,
  { handlers }: Chain,
): PageLoad | undefined {
  const ranges = [
    ...interaction.handled,
    ...handlers.map(({ startMs, durationMs }) => ({ startMs, endMs: startMs + durationMs })),
  ];
  return pageLoadsOf(recording).find(({ beganMs }) =>
    ranges.some(
      ({ startMs, endMs }) => beganMs >= startMs - CLOCKS_APART_MS && beganMs <= endMs + FOLLOWED_MS,
    ),
  );
}
