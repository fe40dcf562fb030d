import { PerformanceObserver } from '../natives';
import type { RecordingSession } from '../session';
import { markInternal } from '../wrap/internal';
import type { Capture } from './capture';

const SCRIPT_NAME = /\.[cm]?js(?:$|[?#])/i;

/** The scripts of the page, so that functions known only by their text can be looked for in them. */
export function scripts(): Capture {
  let session: RecordingSession | undefined;
  let observer: PerformanceObserver | undefined;

  const note = (url: string) => {
    if (url.startsWith(location.origin)) session?.tables.source(url);
  };
  const take = (entries: PerformanceEntryList) => {
    for (const { name, initiatorType } of entries as PerformanceResourceTiming[]) {
      if (initiatorType === 'script' || SCRIPT_NAME.test(name)) note(name);
    }
  };
  return {
    name: 'scripts',
    available: true,
    start(into) {
      session = into;
      for (const { src } of document.scripts) note(src);
      observer = new PerformanceObserver(
        markInternal((list: PerformanceObserverEntryList) => take(list.getEntries())),
      );
      observer.observe({ type: 'resource', buffered: true });
    },
    stop() {
      observer?.disconnect();
      session = undefined;
    },
  };
}
