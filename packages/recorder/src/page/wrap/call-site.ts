import { RECORDER_PATH } from '@nettle-patch/core';
import type { RecordingSession } from '../session';
import type { AnyFunction } from './replace';

/** Frames looked at: the recorder's own, and the app's innermost. Each costs its name, which an engine has to find. */
const FRAMES = 10;
/** Where those of the recorder are left out; one of the engine's own may come first. */
const FRAMES_ABOVE = 2;
/** "at name (url:line:column)" of one family of engines, "name@url:line:column" of the others. */
const FRAME = /^\s*(?:at )?(?:(?:async )?(.*?) ?[(@])?((?:[a-z][a-z0-9+.-]*):\/\/.*?):(\d+):(\d+)\)?$/i;

interface StackingErrors extends ErrorConstructor {
  stackTraceLimit?: number;
  prepareStackTrace?: unknown;
  captureStackTrace?(holder: object, above: AnyFunction | undefined): void;
}

/** The stack as the engine writes it by itself, whatever the app has set; from the caller of a function on. */
function stackText(above: AnyFunction | undefined): string {
  const errors = Error as StackingErrors;
  const { stackTraceLimit, prepareStackTrace } = errors;
  const holder: { stack?: string } = errors.captureStackTrace ? {} : new Error();
  if (stackTraceLimit !== undefined) errors.stackTraceLimit = above ? FRAMES_ABOVE : FRAMES;
  if (prepareStackTrace !== undefined) errors.prepareStackTrace = undefined;
  errors.captureStackTrace?.(holder, above);
  const text = holder.stack ?? '';
  if (stackTraceLimit !== undefined) errors.stackTraceLimit = stackTraceLimit;
  if (prepareStackTrace !== undefined) errors.prepareStackTrace = prepareStackTrace;
  return text;
}

/** Finds the places in the app's code that called into what the recorder replaced. */
export class CallSites {
  constructor(private readonly session: RecordingSession) {}

  /**
   * Id of the innermost place in the app's code, or undefined where the engine tells none.
   * @param above function in place of the page's own that was called from there
   */
  current(above?: AnyFunction): number | undefined {
    for (const line of stackText(above).split('\n')) {
      const [, name = '', url = '', row = '', column = ''] = FRAME.exec(line) ?? [];
      if (url === '' || url.includes(RECORDER_PATH)) continue;
      const plainName = name.replace(/^(?:new|Object\.|Array\.)\s*/, '').replace(/[/<]+$/, '');
      return this.session.tables.placeAt(plainName, url, Number(row), Number(column));
    }
    return undefined;
  }
}
