import type { RecordingSession } from '../session';
import { markInternal } from '../wrap/internal';
import type { Capture } from './capture';
import { now } from '../natives';

/** Moments at which a collection of memory was noticed: something left unused on purpose was gone. */
export function collections(): Capture {
  let session: RecordingSession | undefined;
  let registry: FinalizationRegistry<RecordingSession> | undefined;
  const plant = () => session !== undefined && registry?.register({}, session, session);
  return {
    name: 'collections',
    available: true,
    start(into) {
      session = into;
      registry ??= new FinalizationRegistry(
        markInternal((of: RecordingSession) => {
          if (of !== session) return;
          of.happened('collection', now(), {});
          plant();
        }),
      );
      plant();
    },
    stop() {
      // Nothing is to run in a page that has been left: it would not come back from the browser's cache.
      if (session !== undefined) registry?.unregister(session);
      session = undefined;
    },
  };
}
