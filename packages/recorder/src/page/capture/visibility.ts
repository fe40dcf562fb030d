import type { RecordingSession } from '../session';
import type { Capture } from './capture';

/** Whether the page could be seen (HTML, page visibility): a hidden page draws nothing and is throttled. */
export function visibility(): Capture {
  let session: RecordingSession | undefined;

  const emit = () => {
    session?.emit({
      kind: 'state',
      thread: session.thread,
      startMs: session.time(performance.now()),
      type: 'visibility',
      value: document.visibilityState,
    });
  };

  return {
    name: 'visibility-state',
    available: true,
    start(into) {
      session = into;
      emit();
      document.addEventListener('visibilitychange', emit);
    },
    stop() {
      document.removeEventListener('visibilitychange', emit);
      session = undefined;
    },
  };
}
