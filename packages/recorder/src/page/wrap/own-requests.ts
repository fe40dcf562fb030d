import { RESERVED_PATH } from '@nettle-patch/core';
import { apply } from '../natives';
import { replaceMethod } from './replace';

/** Whether what is told of is none of the recorder's own files. */
export const isOfApp = ({ entryType, name }: PerformanceEntry): boolean =>
  entryType !== 'resource' || !new URL(name).pathname.startsWith(RESERVED_PATH);

/** Leaves the recorder's own files out of what the page is told of its requests (W3C Performance Timeline). */
export function hideOwnRequests(): void {
  for (const { prototype } of [Performance, PerformanceObserverEntryList, PerformanceObserver]) {
    for (const name of ['getEntries', 'getEntriesByType', 'getEntriesByName', 'takeRecords']) {
      replaceMethod(prototype, name, (original) => ({
        instead(...args) {
          return (apply(original, this, args) as PerformanceEntry[]).filter(isOfApp);
        },
      }));
    }
  }
}
