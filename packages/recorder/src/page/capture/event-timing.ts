import { elementLabel } from '../element-label';
import { defined } from '../interned';
import type { RecordingSession } from '../session';
import type { Capture } from './capture';
import { observedCapture } from './observed';
import { UsedElements } from './used-elements';

/** PerformanceEventTiming of W3C Event Timing. */
interface EventEntry extends PerformanceEntry {
  readonly processingStart: number;
  readonly processingEnd: number;
  readonly interactionId?: number;
  readonly target: Node | null;
}

/** The least delay Event Timing reports (its section 3.3). */
const LEAST_REPORTED_MS = 16;
/** An input that no entry has come for by then was answered too quickly to be reported. */
const REPORTED_WITHIN_MS = 2000;
/** Events that merely accompany a moving pointer are of interest only where their listeners took time. */
const HOVER = /^(pointer|mouse)(enter|leave|over|out)$/;
const HOVER_WORTH_MS = 1;
const COUNTED_QUICK = ['click', 'keydown'] as const;

/** Inputs and their delay (W3C Event Timing); those too quick for it, as "below 16 ms". */
export function eventTiming(): Capture {
  const used = new UsedElements();
  const reported = new Set<string>();
  let current: RecordingSession | undefined;
  let startedAt = 0;

  const observed = observedCapture<EventEntry>(
    'event',
    (entry, session) => {
      if (HOVER.test(entry.name) && entry.processingEnd - entry.processingStart < HOVER_WORTH_MS) return;
      reported.add(`${entry.name} ${entry.startTime}`);
      session.emit({
        kind: 'input',
        thread: session.thread,
        startMs: session.time(entry.startTime),
        durationMs: entry.duration,
        type: entry.name,
        processingStartMs: session.time(entry.processingStart),
        processingEndMs: session.time(entry.processingEnd),
        ...defined({
          interaction: entry.interactionId || undefined,
          target:
            used.labelAt(entry.name, entry.startTime) ??
            (entry.target ? elementLabel(entry.target) : undefined),
        }),
      });
    },
    { durationThreshold: LEAST_REPORTED_MS },
  );

  const emitQuick = (beforeMs: number) => {
    for (const input of used.takeOlderThan(beforeMs, COUNTED_QUICK)) {
      if (reported.has(`${input.type} ${input.timeStamp}`) || input.timeStamp < startedAt) continue;
      current?.emit({
        kind: 'input',
        thread: current.thread,
        startMs: current.time(input.timeStamp),
        durationMs: 0,
        type: input.type,
        target: input.label,
        belowMs: LEAST_REPORTED_MS,
      });
    }
    if (reported.size > 1000) reported.clear();
  };

  return {
    name: observed.name,
    available: observed.available,
    start(session) {
      current = session;
      startedAt = performance.now();
      used.start();
      observed.start(session);
    },
    collect() {
      emitQuick(performance.now() - REPORTED_WITHIN_MS);
    },
    stop() {
      void observed.stop();
      emitQuick(performance.now());
      used.stop();
      reported.clear();
      current = undefined;
    },
  };
}
