import { elementLabel } from '../element-label';
import { defined } from '../interned';
import type { RecordingSession } from '../session';
import type { Capture } from './capture';
import { observedCapture } from './observed';
import { RecentInputTargets, type RecentInputTarget } from './recent-input-targets';
import { now } from '../natives';

/** PerformanceEventTiming of W3C Event Timing. */
interface EventEntry extends PerformanceEntry {
  readonly processingStart: number;
  readonly processingEnd: number;
  readonly interactionId?: number;
  readonly target: Node | null;
}

/** The least delay Event Timing reports (its section 3.3). */
const MIN_REPORTED_MS = 16;
/** An input that no entry has come for after so many collections of rows was answered too quickly to be reported. */
const REPORTED_WITHIN = 8;
/** Events that Event Timing counts as parts of an interaction (its section 2.4). */
const INTERACTING = /^(pointer(down|up)|click|key(down|up))$/;
/** Events that merely accompany a moving pointer are of interest only where their listeners took time. */
const HOVER = /^(pointer|mouse)(enter|leave|over|out)$/;
const HOVER_WORTH_MS = 1;
const COUNTED_QUICK = ['click', 'keydown'] as const;

/** The interaction an entry belongs to: as the engine tells, or, where it tells of none, as its events were seen. */
function interactionOf(
  entry: EventEntry,
  seen: RecentInputTarget | undefined,
  { firstId }: RecordingSession,
): number | undefined {
  const id = entry.interactionId ?? (INTERACTING.test(entry.name) ? seen?.interaction : undefined);
  return id ? id + firstId : undefined;
}

/** Inputs and their delay (W3C Event Timing); those too quick for it, as "below 16 ms". */
export function eventTiming(): Capture {
  const used = new RecentInputTargets();
  const reported = new Set<string>();
  /** Interactions of which an event was reported, by their number here. */
  const known = new Map<number, number>();
  let current: RecordingSession | undefined;
  let startedAt = 0;

  const observed = observedCapture<EventEntry>(
    'event',
    (entry, session) => {
      if (HOVER.test(entry.name) && entry.processingEnd - entry.processingStart < HOVER_WORTH_MS) return;
      reported.add(`${entry.name} ${entry.startTime}`);
      const seen = used.at(entry.name, entry.startTime);
      const interaction = interactionOf(entry, seen, session);
      if (seen !== undefined && interaction !== undefined) known.set(seen.interaction, interaction);
      session.lasted('input', entry.startTime, entry.duration, {
        type: entry.name,
        processingStartMs: session.time(entry.processingStart),
        processingEndMs: session.time(entry.processingEnd),
        ...defined({
          interaction,
          target: seen?.label ?? (entry.target ? elementLabel(entry.target) : undefined),
        }),
      });
    },
    { durationThreshold: MIN_REPORTED_MS },
  );

  const emitQuick = (collections: number) => {
    for (const input of used.collect(collections, COUNTED_QUICK)) {
      if (reported.has(`${input.type} ${input.timeStamp}`) || input.timeStamp < startedAt) continue;
      current?.lasted('input', input.timeStamp, 0, {
        type: input.type,
        target: input.label,
        belowMs: MIN_REPORTED_MS,
        ...defined({ interaction: known.get(input.interaction) }),
      });
    }
    if (reported.size > 1000) reported.clear();
    if (known.size > 1000) known.clear();
  };

  return {
    name: observed.name,
    available: observed.available,
    start(session) {
      current = session;
      startedAt = now();
      used.start();
      observed.start(session);
    },
    collect() {
      emitQuick(REPORTED_WITHIN);
    },
    stop() {
      void observed.stop();
      emitQuick(0);
      used.stop();
      reported.clear();
      current = undefined;
    },
  };
}
