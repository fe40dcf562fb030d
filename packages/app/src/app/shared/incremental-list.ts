import { computed, effect, linkedSignal, type Signal } from '@angular/core';
import { scheduleTask } from './schedule-task';

const FIRST = 30;
const MORE = 60;

/**
 * The beginning of a list, and more of it task by task until it is whole, so that building a long one holds up no
 * input. Begins anew with another list. To be called where effects can be made.
 */
export function incrementalList<T>(all: Signal<readonly T[]>): Signal<readonly T[]> {
  const count = linkedSignal({ source: all, computation: () => FIRST });
  effect(() => {
    const now = count();
    if (now < all().length)
      scheduleTask(() => count.update((latest) => (latest === now ? now + MORE : latest)));
  });
  return computed(() => (all().length <= count() ? all() : all().slice(0, count())));
}
