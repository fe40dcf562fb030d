import { DestroyRef, afterNextRender, inject, signal, type Signal } from '@angular/core';
import { scheduleTask } from './schedule-task';

/**
 * How many parts of a view are there beyond its first: one more after each picture, so that building them holds up no
 * input. To be called where `inject` may be.
 */
export function incrementalRender(parts: number): Signal<number> {
  const destroyed = inject(DestroyRef);
  const built = signal(0);
  afterNextRender(() => {
    for (let part = 1; part <= parts; part++) {
      scheduleTask(() => {
        if (!destroyed.destroyed) built.set(part);
      });
    }
  });
  return built.asReadonly();
}
