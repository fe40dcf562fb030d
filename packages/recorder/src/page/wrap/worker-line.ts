import { listen } from '../natives';
import { markInternal } from './internal';

/** What goes between two threads, counted at both ends since the worker began, so that each message is known at both. */
export interface WorkerLine {
  /** Thread at the other end. */
  readonly thread: number;
  /** Messages sent there. */
  sent: number;
  /** Messages that came from there. */
  came: number;
}

/** Which message of a line another thread sent. */
export interface CameFrom {
  readonly from: number;
  readonly nth: number;
}

const lines = new WeakMap<object, WorkerLine>();
const known = new WeakMap<Event, CameFrom>();

/**
 * Counts what goes between this thread and another from now on, before any listener of the app is called.
 * @param end what messages come to here: the worker as the page has it, or the global object of a worker
 * @param isCounted whether the app is told of a message
 */
export function countMessages(
  end: EventTarget,
  thread: number,
  isCounted: (event: Event) => boolean = () => true,
): void {
  const line = { thread, sent: 0, came: 0 };
  lines.set(end, line);
  listen(
    end,
    'message',
    markInternal((event: Event) => {
      if (isCounted(event)) known.set(event, { from: thread, nth: ++line.came });
    }),
  );
}

export function lineOf(end: object): WorkerLine | undefined {
  return lines.get(end);
}

/** Of a message from another thread, which it is. */
export function cameFrom(event: Event): CameFrom | undefined {
  return known.get(event);
}
