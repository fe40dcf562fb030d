import type { Capture } from './capture/capture';
import { eventTiming } from './capture/event-timing';
import { lifeCycle, paints } from './capture/life-cycle';
import { collections } from './capture/collections';
import { Initiators, requests } from './capture/requests';
import { scripts } from './capture/scripts';
import { marks, measures } from './capture/user-timing';
import type { CallEventBuffer } from './exact/call-event-buffer';
import { keepFunctionText } from './exact/function-text';
import { ForcedLayout } from './layout/forced-layout';
import { Mutations } from './layout/mutations';
import { ProbeSteps } from './layout/probe-steps';
import { Redraws } from './layout/redraws';
import { RenderProbe } from './layout/render-probe';
import { NextTask } from './next-task';
import type { Host } from './host';
import { takeRegistered, type Lent } from './capture-registry';
import { refreshInterval } from './refresh';
import { hideOwnRequests } from './wrap/own-requests';
import { wrapDialogs } from './wrap/dialogs';
import { observedCapture } from './capture/observed';
import { elementLabel } from './element-label';
import { framesElsewhere } from './frames-elsewhere';
import { PerformanceObserver } from './natives';
import { ScriptEntryTracker } from './wrap/script-entries';
import { Listeners } from './wrap/events';
import { wrapFrames } from './wrap/frames';
import { failed, markInternal } from './wrap/internal';
import { wrapCallbacks } from './wrap/callbacks';
import { wrapObservers } from './wrap/observers';
import { PendingFrames } from './wrap/pending-frames';
import { SentMessages } from './wrap/sent-messages';
import { SentRequests } from './wrap/sent-requests';

/** Classes whose objects have `on…` properties. */
const WITH_HANDLERS = [
  'HTMLElement',
  'HTMLBodyElement',
  'HTMLFrameSetElement',
  'SVGElement',
  'Document',
  'Element',
  'XMLHttpRequestEventTarget',
  'XMLHttpRequest',
  'MessagePort',
  'Worker',
  'WebSocket',
  'EventSource',
  'FileReader',
  'Animation',
  'IDBRequest',
];

/** Of what is lent to captures in files of their own, what differs from window to window. */
export type OwnLent = Pick<Lent, 'tell' | 'isExact'>;

/** What is captured in a window, and has been put in place of the page's own functions. */
export interface PageCaptures {
  readonly captures: readonly Capture[];
  readonly probe: RenderProbe;
  /** Documents that the probe has drawn. */
  readonly documents: Document[];
}

/**
 * @param ring takes forced layout
 * @param lent to captures in files of their own
 * @param host in a frame of a recorded page, what that page lends; what it captures for both is not captured again
 */
export function pageCaptures(ring: CallEventBuffer, lent: OwnLent, host?: Host): PageCaptures {
  const documents = [document];
  const entries = new ScriptEntryTracker(ring);
  const mutations = new Mutations();
  const frames = new PendingFrames();
  const steps = new ProbeSteps();
  const probe = new RenderProbe(new ProbeSteps(documents), mutations, frames, entries, host?.probe);
  const forced = new ForcedLayout(mutations, steps, ring, entries);
  const initiators = new Initiators(() => entries);
  const resumedEnd = new NextTask();
  const messages = new SentMessages(entries, Worker.prototype);
  const sentRequests = new SentRequests(
    entries,
    (url) => initiators.ask(url),
    () => resumedEnd.call(() => entries.endResumed()),
  );
  const life = lifeCycle();
  const ofPage = (...some: Capture[]) => (host ? [] : some);
  const captures: Capture[] = [
    entries,
    forced,
    probe,
    new Redraws(mutations, probe, steps, entries),
    eventTiming(),
    ...takeRegistered({
      ...lent,
      probe,
      entries,
      elementLabel,
      NextTask,
      markInternal,
      failed,
      framesElsewhere,
      observedCapture,
      refreshInterval,
    }),
    marks,
    measures,
    ...requests(initiators),
    scripts(),
    ...ofPage(collections(), life, ...paints),
  ];

  const listeners = new Listeners(
    entries,
    (target, event) => messages.causeOf(target, event) ?? { schedule: sentRequests.causeOf(target) },
  );
  const watchWindow = (scope: typeof globalThis) => {
    keepFunctionText(scope.Function.prototype);
    listeners.wrapListening(scope);
    listeners.wrapHandlers(scope);
    const classes = scope as unknown as Record<string, { prototype: object } | undefined>;
    for (const name of WITH_HANDLERS) {
      const owner = classes[name]?.prototype;
      if (owner !== undefined) listeners.wrapHandlers(owner);
    }
  };
  watchWindow(globalThis);
  wrapFrames(watchWindow);
  hideOwnRequests();
  wrapCallbacks(entries, frames);
  wrapObservers(entries);
  if (!PerformanceObserver.supportedEntryTypes.includes('long-animation-frame')) wrapDialogs(entries);
  messages.install();
  sentRequests.install();
  mutations.install();
  forced.install();
  life.install();
  return { captures, probe, documents };
}
