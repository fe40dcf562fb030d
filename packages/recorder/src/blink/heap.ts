import type { Capture } from '../page/capture/capture';
import { now } from '../page/natives';
import type { RecordingSession } from '../page/session';

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
