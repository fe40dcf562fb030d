import type { Capture } from '../page/capture/capture';
import { now } from '../page/natives';
import type { NextTask } from '../page/next-task';
import type { Lent } from '../page/capture-registry';
import type { RecordingSession } from '../page/session';

/** Shorter ones are no long tasks (W3C Long Tasks, section 1). */
const LONG_MS = 50;

/**
 * Long tasks where the engine does not tell of them: from the entry into script until a message sent then
 * arrives, which is when the thread is free again.
 */
export function taskFallback({ entries, NextTask }: Pick<Lent, 'entries' | 'NextTask'>): Capture {
  let session: RecordingSession | undefined;
  let next: NextTask | undefined;
  let waiting = false;

  const onFree = (startMs: number) => {
    waiting = false;
    entries.endResumed();
    const durationMs = now() - startMs;
    if (session === undefined || durationMs <= LONG_MS) return;
    session.lasted('task', startMs, durationMs, { source: 'own' });
  };
  const onEntry = (startMs: number) => {
    if (session === undefined || waiting) return;
    waiting = true;
    next?.call(() => onFree(startMs));
  };
  entries.onOutermost(onEntry);

  return {
    name: 'own-tasks',
    available: true,
    start(into) {
      session = into;
      next = new NextTask();
    },
    stop() {
      session = undefined;
      next?.close();
      waiting = false;
    },
  };
}
