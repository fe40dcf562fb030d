import { displayName } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { MAIN_THREAD } from '../recording/recording';

type Entry = Record<string, string | number | object>;

function entry(
  entryType: string,
  name: string,
  startTime: number,
  duration: number,
  more: Entry = {},
): Entry {
  return { name, entryType, startTime, duration, ...more };
}

/**
 * What of the main thread of a recording has a shape in the W3C's standards, as performance entries in the form of
 * their `toJSON`, in order of time. Times count from the start of the recording.
 */
export function performanceEntries({ events, functions, sources }: Recording): Entry[] {
  const ofMain = <Row extends { readonly thread: number }>(rows: Iterable<Row>): Row[] =>
    [...rows].filter(({ thread }) => thread === MAIN_THREAD);
  const handlers = ofMain(events.handler.rows());
  const scriptsOf = (startMs: number, endMs: number) =>
    handlers
      .filter((handler) => handler.startMs >= startMs && handler.startMs < endMs)
      .map(({ startMs: from, durationMs, type, invoker, forcedMs, pauseMs, function: functionId }) => {
        const recorded = functionId === undefined ? undefined : functions.get(functionId);
        return entry('script', invoker, from, durationMs, {
          invoker,
          invokerType: type,
          sourceURL: sources.get(recorded?.source ?? -1)?.url ?? '',
          sourceFunctionName: recorded === undefined ? '' : displayName(recorded),
          sourceCharPosition: recorded?.position ?? -1,
          forcedStyleAndLayoutDuration: forcedMs ?? 0,
          pauseDuration: pauseMs ?? 0,
        });
      });
  const entries = [
    ...ofMain(events.input.rows()).map((row) =>
      entry('event', row.type, row.startMs, row.durationMs, {
        interactionId: row.interaction ?? 0,
        processingStart: row.processingStartMs ?? row.startMs,
        processingEnd: row.processingEndMs ?? row.startMs,
      }),
    ),
    ...ofMain(events.task.rows()).map((row) => entry('longtask', 'self', row.startMs, row.durationMs)),
    ...ofMain(events.frame.rows()).map((row) =>
      entry('long-animation-frame', 'long-animation-frame', row.startMs, row.durationMs, {
        renderStart: row.renderStartMs ?? 0,
        styleAndLayoutStart: row.styleStartMs ?? 0,
        blockingDuration: row.blockingMs ?? 0,
        scripts: scriptsOf(row.startMs, row.startMs + row.durationMs),
      }),
    ),
    ...ofMain(events.span.rows()).map((row) =>
      entry(row.type === 'measure' ? 'measure' : 'mark', row.name, row.startMs, row.durationMs),
    ),
    ...ofMain(events.request.rows()).map((row) =>
      entry('resource', row.url, row.startMs, row.durationMs, {
        initiatorType: row.initiator,
        responseStart: row.responseStartMs ?? 0,
        transferSize: row.bytes ?? 0,
        responseStatus: row.status ?? 0,
      }),
    ),
  ];
  return entries.sort((a, b) => Number(a['startTime']) - Number(b['startTime']));
}
