import type { Row } from '../format/rows';

/** A picture: 1 ms of style, 1 of layout, the rest paint. */
export function picture(startMs: number, durationMs = 4): Row {
  return { kind: 'render', thread: 0, startMs, durationMs, styleMs: 1, layoutMs: 1, paintMs: durationMs - 2 };
}

/** The end of a recording that was stopped. */
export function end(startMs: number): Row {
  return { kind: 'end', startMs, reason: 'stopped' };
}

/** A script of the boarding desk and functions in it, with ids from 0. */
export function deskFunctions(...names: string[]): Row[] {
  return [
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    ...names.map((name, id): Row => ({ kind: 'function', id, name, source: 0 })),
  ];
}

/** An entry into a function of the desk, from a frame callback unless more is said. */
export function deskRun(startMs: number, durationMs: number, functionId = 0, more: object = {}): Row {
  return {
    kind: 'handler',
    thread: 0,
    startMs,
    durationMs,
    type: 'user-callback',
    invoker: 'FrameRequestCallback',
    function: functionId,
    ...more,
  };
}

/** A tap on "Board all", handled for nearly all of its time unless more is said. */
export function deskTap(startMs: number, durationMs: number, more: object = {}): Row {
  return {
    kind: 'input',
    thread: 0,
    startMs,
    durationMs,
    type: 'click',
    interaction: startMs + 1,
    target: 'button “Board all”',
    processingStartMs: startMs + 1,
    processingEndMs: startMs + durationMs - 4,
    ...more,
  };
}
