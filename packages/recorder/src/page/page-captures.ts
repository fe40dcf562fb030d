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
import { OFFERED } from './offered';
import { wrapDialogs } from './wrap/dialogs';
import { Entries } from './wrap/entries';
import { wrapHandlerProperties, wrapListeners, type EventCause } from './wrap/events';
import { PendingFrames, SentMessages, SentRequests, wrapCallbacks, wrapObservers } from './wrap/scheduling';

/** Classes whose objects have `on…` properties. */
const WITH_HANDLERS = [
  'HTMLElement',
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
    requests(initiators),
    scripts(),
    memory(),
    collections(),
    life,
    ...paints,
    shifts,
    ...((globalThis as { [OFFERED]?: Capture[] })[OFFERED] ?? []),
  ];

  const causeOf: EventCause = (target, event) =>
    messages.causeOf(target, event) ?? sentRequests.causeOf(target);
  exact.install(globalThis);
  keepFunctionText();
  wrapListeners(entries, causeOf);
  const scope = globalThis as unknown as Record<string, { prototype: object } | undefined>;
  for (const owner of [globalThis, ...WITH_HANDLERS.map((name) => scope[name]?.prototype)]) {
    if (owner !== undefined) wrapHandlerProperties(owner, entries, causeOf);
  }
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
