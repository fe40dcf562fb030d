import { MAIN_THREAD } from '@nettle-patch/core';
import type { Capture } from '../page/capture/capture';
import type { CallEventBuffer } from '../page/exact/call-event-buffer';
import type { FrameTools } from '../page/frame-tools';
import type { Host } from '../page/host';
import { listen } from '../page/natives';
import type { RecordingSession } from '../page/session';

/** Milliseconds by which the clock of this window is behind that of the page. */
function behind({ clockOrigin }: Host): number {
  return performance.timeOrigin - clockOrigin;
}

/** The page's ring, for times of this window. */
function ringFor(host: Host): CallEventBuffer {
  const { ring } = host;
  const behindMs = behind(host);
  return {
    ...ring,
    enterAt: (id, atMs) => ring.enterAt(id, atMs + behindMs),
    leaveAt: (atMs) => ring.leaveAt(atMs + behindMs),
  };
}

/** Has what this frame captures taken in by its page, as long as the frame is there. */
export function startFrame(host: Host, tools: FrameTools): void {
  const { markInternal, pageCaptures } = tools;
  const { captures } = pageCaptures(ringFor(host), { tell: () => undefined, isExact: true }, host);
  const part = framePart(captures, host, tools);
  let leave: (() => void) | undefined;
  const join = () => {
    host.documents.push(document);
    leave = host.takeIn(part);
  };
  listen(
    globalThis,
    'pagehide',
    markInternal(() => {
      leave?.();
      host.documents.splice(host.documents.indexOf(document), 1);
    }),
  );
  listen(
    globalThis,
    'pageshow',
    markInternal((event) => (event as PageTransitionEvent).persisted && join()),
  );
  join();
}

/** What a frame captures, as one capture of its page: it writes into the page's session, by ids of its own. */
function framePart(
  captures: readonly Capture[],
  host: Host,
  { RecordingSession, nameByText, overseeInto }: FrameTools,
): Capture {
  let whole: RecordingSession | undefined;
  let own: RecordingSession | undefined;
  overseeInto(() => own);
  return {
    name: 'frame',
    available: true,
    start(session) {
      const { id, originMs, page } = session;
      if (whole !== session)
        own = new RecordingSession(
          id,
          originMs - behind(host),
          false,
          MAIN_THREAD,
          page,
          host.nextNumber(),
          session,
        );
      whole = session;
      nameByText(host.isNamedByText());
      for (const capture of captures) if (capture.available) capture.start(own!);
    },
    collect() {
      for (const capture of captures) capture.collect?.();
    },
    stop(leaving) {
      for (const capture of captures) void capture.stop(leaving);
    },
  };
}
