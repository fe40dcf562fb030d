import { RECORDER_PATH } from '@nettle-patch/core';
import type { RecordingSession } from '../session';

/** Frames looked at: the recorder's own, and the app's innermost. */
const FRAMES = 10;
/** "at name (url:line:column)" of one family of engines, "name@url:line:column" of the others. */
const FRAME = /^\s*(?:at )?(?:(?:async )?(.*?) ?[(@])?((?:[a-z][a-z0-9+.-]*):\/\/.*?):(\d+):(\d+)\)?$/i;

interface StackingErrors extends ErrorConstructor {
  stackTraceLimit?: number;
  prepareStackTrace?: unknown;
}

/** The stack as the engine writes it by itself, whatever the app has set. */
function stackText(): string {
  const errors = Error as StackingErrors;
  const { stackTraceLimit, prepareStackTrace } = errors;
  if (stackTraceLimit !== undefined) errors.stackTraceLimit = FRAMES;
  if (prepareStackTrace !== undefined) errors.prepareStackTrace = undefined;
  const text = new Error().stack ?? '';
  if (stackTraceLimit !== undefined) errors.stackTraceLimit = stackTraceLimit;
  if (prepareStackTrace !== undefined) errors.prepareStackTrace = prepareStackTrace;
  return text;
}

/** Finds the places in the app's code that called into what the recorder replaced. */
export class CallSites {
  readonly #known = new Map<string, number | undefined>();

  constructor(private readonly session: RecordingSession) {}

  /** Id of the innermost place in the app's code, or undefined where the engine tells none. */
  current(): number | undefined {
    const text = stackText();
    if (this.#known.has(text)) return this.#known.get(text);
    const site = this.#siteIn(text);
    if (this.#known.size > 2000) this.#known.clear();
    this.#known.set(text, site);
    return site;
  }

  #siteIn(text: string): number | undefined {
    for (const line of text.split('\n')) {
      const [, name = '', url = '', row = '', column = ''] = FRAME.exec(line) ?? [];
      if (url === '' || url.includes(RECORDER_PATH)) continue;
      const plainName = name.replace(/^(?:new|Object\.|Array\.)\s*/, '').replace(/[/<]+$/, '');
      return this.session.tables.placeAt(plainName, url, Number(row), Number(column));
    }
    return undefined;
  }
}
