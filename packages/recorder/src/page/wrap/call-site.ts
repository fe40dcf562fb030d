import { RESERVED_PATH } from '@nettle-patch/core';
import { getOwnPropertyDescriptor } from '../natives';
import type { RecordingSession } from '../session';
import type { AnyFunction } from './replace';

/** Frames looked at: the recorder's own, and the app's innermost. Each costs its name, which an engine has to find. */
const FRAMES = 10;
/** Where those of the recorder are left out; one of the engine's own may come first. */
const FRAMES_ABOVE = 2;
/** A longer line of a stack, as with a whole script for its address, names no place anybody could open. */
const MAX_LINE = 2000;
/** "at name (url:line:column)" of one family of engines, "name@url:line:column" of the others. */
const FRAME = /^\s*(?:at )?(?:(?:async )?(.*?) ?[(@])?((?:[a-z][a-z0-9+.-]*):\/\/.*?):(\d+):(\d+)\)?$/i;

/** What engines have beyond ECMA-262; not all of them. */
interface StackingErrors {
  stackTraceLimit?: number;
  prepareStackTrace?: unknown;
  captureStackTrace?(holder: object, above: AnyFunction | undefined): void;
}

const errors = Error as unknown as StackingErrors;
const { captureStackTrace } = errors;

/**
 * The stack as the engine writes it by itself, whatever the app has set; from the caller of a function on. Where the app
 * has set it so that nobody else can, there is none: it is not to see that anybody has tried.
 */
function stackText(above: AnyFunction | undefined): string {
  if (captureStackTrace === undefined) return new Error().stack ?? '';
  const limit = getOwnPropertyDescriptor(errors, 'stackTraceLimit');
  const prepare = getOwnPropertyDescriptor(errors, 'prepareStackTrace');
  if (!limit?.writable || prepare?.writable === false || prepare?.get !== undefined) return '';
  const holder: { stack?: string } = {};
  errors.stackTraceLimit = above ? FRAMES_ABOVE : FRAMES;
  if (prepare !== undefined) errors.prepareStackTrace = undefined;
  captureStackTrace(holder, above);
  const text = holder.stack ?? '';
  errors.stackTraceLimit = limit.value as number;
  if (prepare !== undefined) errors.prepareStackTrace = prepare.value;
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
      if (line.length > MAX_LINE) continue;
      const [, name = '', url = '', row = '', column = ''] = FRAME.exec(line) ?? [];
      if (url === '' || url.includes(RESERVED_PATH)) continue;
      const plainName = name.replace(/^(?:new|Object\.|Array\.)\s*/, '').replace(/[/<]+$/, '');
      return this.session.tables.placeAt(plainName, url, Number(row), Number(column));
    }
    return undefined;
  }
}
