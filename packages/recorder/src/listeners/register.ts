import { PerformanceObserver } from '../page/natives';
import { registerCapture } from '../page/capture-registry';
import { inputListeners } from './input-listeners';
import { taskFallback } from './task-fallback';

/** Offers what is to be captured in place of entries of the Performance Timeline that this engine has not. */
export function registerListeners(): void {
  const { supportedEntryTypes } = PerformanceObserver;
  if (!supportedEntryTypes.includes('event')) registerCapture(inputListeners);
  if (!supportedEntryTypes.includes('longtask')) registerCapture(taskFallback);
}
