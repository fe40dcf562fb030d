import type { RecordingSession } from '../session';
import { ours } from '../wrap/ours';
import type { Capture } from './capture';
import { now } from '../natives';

interface HeapMeasure {
  readonly usedJSHeapSize: number;
  readonly jsHeapSizeLimit: number;
}

const EVERY_MS = 1000;
const KB = 1024;

const heap = () => (performance as { memory?: HeapMeasure }).memory;

/** Memory in use by script, once a second, where the engine tells it. */
export function memory(): Capture {
  let session: RecordingSession | undefined;
  let nextMs = 0;
  return {
    name: 'memory',
    available: heap() !== undefined,
    start(into) {
      session = into;
      nextMs = 0;
    },
    collect() {
      const nowMs = now();
      if (session === undefined || nowMs < nextMs) return;
      nextMs = nowMs + EVERY_MS;
      const { usedJSHeapSize, jsHeapSizeLimit } = heap()!;
      session.happened('memory', nowMs, {
        usedKb: Math.round(usedJSHeapSize / KB),
        limitKb: Math.min(2 ** 31 - 1, Math.round(jsHeapSizeLimit / KB)),
      });
    },
    stop() {
      session = undefined;
    },
  };
}

/** Moments at which a collection of memory was noticed: something left unused on purpose was gone. */
export function collections(): Capture {
  let session: RecordingSession | undefined;
  let registry: FinalizationRegistry<RecordingSession> | undefined;
  const plant = () => session !== undefined && registry?.register({}, session, session);
  return {
    name: 'collections',
    available: true,
    start(into) {
      session = into;
      registry ??= new FinalizationRegistry(
        ours((of: RecordingSession) => {
          if (of !== session) return;
          of.happened('collection', now(), {});
          plant();
        }),
      );
      plant();
    },
    stop() {
      // Nothing is to run in a page that has been left: it would not come back from the browser's cache.
      if (session !== undefined) registry?.unregister(session);
      session = undefined;
    },
  };
}
