import { plainAddress } from '../address';
import type { RecordingSession } from '../session';
import { guarded, markInternal } from '../wrap/internal';
import { replaceMethod } from '../wrap/replace';
import type { Capture } from './capture';
import { observedCapture } from './observed';
import { apply, listen, now, stopListening } from '../natives';

type StateType = 'visibility' | 'route' | 'load' | 'freeze';

/** Routes within the page, its visibility (a hidden page draws nothing), and the stages of its life. */
export function lifeCycle(): Capture & { install(): void } {
  let session: RecordingSession | undefined;

  const emit = (type: StateType, value: string, atMs = now()) =>
    session?.happened('state', atMs, { type, value });
  const route = () => emit('route', plainAddress(location.href));
  let listeners: readonly (readonly [EventTarget, string, () => void])[] = [];

  return {
    name: 'life-cycle',
    available: true,
    install() {
      listeners = [
        [document, 'visibilitychange', markInternal(() => emit('visibility', document.visibilityState))],
        [document, 'freeze', markInternal(() => emit('freeze', 'frozen'))],
        [document, 'resume', markInternal(() => emit('freeze', 'resumed'))],
        [document, 'DOMContentLoaded', markInternal(() => emit('load', 'document parsed'))],
        [globalThis, 'load', markInternal(() => emit('load', 'loaded'))],
        [globalThis, 'popstate', markInternal(route)],
        [globalThis, 'hashchange', markInternal(route)],
      ];
      for (const name of ['pushState', 'replaceState']) {
        replaceMethod(History.prototype, name, (original) => ({
          instead(...args) {
            const before = location.href;
            const value: unknown = apply(original, this, args);
            if (session !== undefined && location.href !== before) guarded(route);
            return value;
          },
        }));
      }
    },
    start(into) {
      session = into;
      if (into.startUp) emit('load', 'began', 0);
      emit('visibility', document.visibilityState);
      route();
      for (const [target, type, listener] of listeners) listen(target, type, listener);
    },
    stop() {
      for (const [target, type, listener] of listeners) stopListening(target, type, listener);
      session = undefined;
    },
  };
}

/** First and largest pictures of the page (W3C Paint Timing, Largest Contentful Paint). */
export const paints = ['paint', 'largest-contentful-paint'].map((type) =>
  observedCapture(type, (entry, session) => {
    session.happened('state', entry.startTime, {
      type: 'paint',
      value: entry.name || type,
    });
  }),
);
