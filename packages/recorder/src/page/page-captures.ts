import type { Capture } from './capture/capture';
import { eventTiming } from './capture/event-timing';
import { inputListeners } from './capture/input-listeners';
import { lifeCycle, paints, shifts } from './capture/life-cycle';
import { longFrames } from './capture/long-frames';
import { longTasks } from './capture/long-tasks';
import { collections, memory } from './capture/memory';
import { ownTasks } from './capture/own-tasks';
import { Initiators, requests } from './capture/requests';
import { sampling, type TraceSink } from './capture/sampling';
import { scripts } from './capture/scripts';
import { marks, measures } from './capture/user-timing';
import { ExactCalls, type CallSink } from './exact/exact-calls';
import { keepFunctionText } from './exact/function-text';
import { ForcedLayout } from './layout/forced-layout';
import { Mutations } from './layout/mutations';
import { ProbeSteps } from './layout/probe-steps';
import { Redraws } from './layout/redraws';
import { RenderProbe } from './layout/render-probe';
import { NextTask } from './next-task';
import { takeOffered } from './offered';
import { hideOwnRequests } from './wrap/own-requests';
import { wrapDialogs } from './wrap/dialogs';
import { Entries } from './wrap/entries';
import { Listeners } from './wrap/events';
import { wrapFrames } from './wrap/frames';
import { PendingFrames, SentMessages, SentRequests, wrapCallbacks, wrapObservers } from './wrap/scheduling';

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

/** Everything that can be captured in a page, and what it has put in place of the page's own functions. */
export interface PageCaptures {
  readonly captures: readonly Capture[];
  readonly exact: ExactCalls;
}

/** The forced-layout rows and the exact calls go through one ring, which is switched on before all others. */
export function pageCaptures(sink: CallSink, traces: TraceSink, isExact: boolean): PageCaptures {
  const exact = new ExactCalls(sink, isExact);
  const entries = new Entries(exact.ring);
  const steps = new ProbeSteps();
  const mutations = new Mutations();
  const frames = new PendingFrames();
  const probe = new RenderProbe(steps, mutations, frames, entries);
  const forced = new ForcedLayout(mutations, steps, exact.ring, entries);
  const initiators = new Initiators(() => entries);
  const resumedEnd = new NextTask();
  const messages = new SentMessages(entries);
  const sentRequests = new SentRequests(
    entries,
    (url) => initiators.ask(url),
    () => resumedEnd.call(() => entries.endResumed()),
  );
  const life = lifeCycle();
  const inputs = eventTiming();
  const captures: Capture[] = [
    exact,
    entries,
    forced,
    probe,
    new Redraws(mutations, probe, steps, entries),
    inputs,
    ...(inputs.available ? [] : [inputListeners(probe)]),
    longTasks,
    ...(longTasks.available ? [] : [ownTasks(entries)]),
    longFrames,
    sampling(traces, !isExact),
    marks,
    measures,
    ...requests(initiators),
    scripts(),
    memory(),
    collections(),
    life,
    ...paints,
    shifts,
    ...takeOffered(),
  ];

  const listeners = new Listeners(
    entries,
    (target, event) => messages.causeOf(target, event) ?? sentRequests.causeOf(target),
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
  if (!longFrames.available) wrapDialogs(entries);
  messages.install();
  sentRequests.install();
  mutations.install();
  forced.install();
  life.install();
  return { captures, exact };
}
