import type { Row } from '../format/rows';

/** A picture: 1 ms of style, 1 of layout, the rest paint. */
export function picture(startMs: number, durationMs = 4): Row {
  return { kind: 'render', thread: 0, startMs, durationMs, styleMs: 1, layoutMs: 1, paintMs: durationMs - 2 };
}

/** The end of a recording that was stopped. */
export function end(startMs: number): Row {
  return { kind: 'end', startMs, reason: 'stopped' };
}
