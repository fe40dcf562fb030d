import type { RecordingSession } from '../session';
import { markInternal } from '../wrap/internal';
import type { Capture } from './capture';
import { PerformanceObserver } from '../natives';

/** Options of `observe` beyond those the type libraries know. */
interface ObserveOptions extends PerformanceObserverInit {
  readonly durationThreshold?: number;
}

/**
 * A capture fed by a PerformanceObserver (W3C Performance Timeline).
 * @param entryType as the standard names it
 * @param take turns one entry into rows
 */
export function observedCapture<Entry extends PerformanceEntry>(
  entryType: string,
  take: (entry: Entry, session: RecordingSession) => void,
  options: ObserveOptions = {},
): Capture {
  let observer: PerformanceObserver | undefined;
  let current: RecordingSession | undefined;

  const takeAll = (entries: PerformanceEntryList) => {
    const session = current;
    session?.charged(entryType, () => {
      for (const entry of entries) {
        if (entry.startTime + entry.duration >= session.originMs) take(entry as Entry, session);
      }
    });
  };

  return {
    name: entryType,
    available: PerformanceObserver.supportedEntryTypes.includes(entryType),
    start(session) {
      current = session;
      observer = new PerformanceObserver(
        markInternal((list: PerformanceObserverEntryList) => takeAll(list.getEntries())),
      );
      observer.observe({ type: entryType, buffered: session.startUp, ...options });
    },
    stop() {
      if (observer === undefined) return;
      takeAll(observer.takeRecords());
      observer.disconnect();
      observer = undefined;
      current = undefined;
    },
  };
}
