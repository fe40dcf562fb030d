import { PerformanceObserver } from '../page/natives';
import { offerCapture } from '../page/offered';
import { inputListeners } from './input-listeners';
import { ownTasks } from './own-tasks';

/** Offers what is to be captured in place of entries of the Performance Timeline that this engine has not. */
export function offerListeners(): void {
  const { supportedEntryTypes } = PerformanceObserver;
  if (!supportedEntryTypes.includes('event')) offerCapture(inputListeners);
  if (!supportedEntryTypes.includes('longtask')) offerCapture(ownTasks);
}
