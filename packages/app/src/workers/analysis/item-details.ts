import {
  OWNER_WORDS,
  durationText,
  msText,
  askedWords,
  canonicalFunction,
  causeInRange,
  frameTimes,
  handlersIn,
  idleReasons,
  interactionsOf,
  originalPath,
  thresholdsOf,
  threadParts,
  threadItem,
  type CauseLink,
  type IdleReason,
  type Lane,
  type Recording,
  type Sting,
  type TimeRange,
} from '@nettle-patch/core';
import {
  activityDetails,
  memoryDetails,
  redrawDetails,
  requestDetails,
  spanDetails,
  stateDetails,
  forcedDetails,
} from './event-details';
import { namedFunction } from './named-function';
import { callStatistics, othersAmong } from './other-occurrences';
import {
  type ChainStep,
  type Fact,
  type DetailsContext,
  type ItemCard,
  type ItemDetails,
  type ItemSummary,
} from './item-details-types';

const MAX_CARD_FACTS = 5;

/** Tells what is known of the items in the lanes of the time view. */
export class ItemDetailsBuilder {
  readonly #context: DetailsContext;

  constructor(
    private readonly recording: Recording,
    private readonly stings: readonly Sting[],
  ) {
    this.#context = {
      recording,
      named: (functionId) => this.#named(functionId),
      chain: (thread, range) => this.#chain(thread, range),
    };
  }

  tell(lane: Lane, ref: number): ItemDetails {
    const { others: countOthers, chain: findChain, ...summary } = this.#summaryOf(lane, ref);
    const sting = this.#stingAt(lane.thread, summary);
    const others = countOthers?.();
    return {
      lane: lane.id,
      ref,
      place: '',
      facts: [],
      callers: [],
      ...summary,
      chain: findChain?.() ?? [],
      ...(others === undefined ? {} : { others }),
      ...(sting < 0 ? {} : { sting }),
    };
  }

  /** What it is and when, without what takes longer to find out. */
  brief(lane: Lane, ref: number): Pick<ItemDetails, 'title' | 'startMs' | 'endMs'> {
    return this.#summaryOf(lane, ref);
  }

  card(lane: Lane, ref: number): ItemCard {
    const { what, title, place = '', facts = [] } = this.#summaryOf(lane, ref);
    return { what, title, place, facts: facts.slice(0, MAX_CARD_FACTS) };
  }

  /** Why a thread did nothing at a time, or that nothing is known of it. */
  idle(lane: Lane, ms: number): ItemDetails {
    const { stretches } = threadParts(this.recording, lane.thread);
    const next = stretches.findIndex(({ startMs }) => startMs > ms);
    const before = next < 0 ? stretches.at(-1) : stretches[next - 1];
    const after = next < 0 ? undefined : stretches[next];
    const range = { startMs: before?.endMs ?? 0, endMs: after?.startMs ?? this.recording.range.endMs };
    const facts = idleReasons(this.recording, lane.thread, range).map(reasonFact);
    return {
      lane: lane.id,
      ref: undefined,
      what: 'Idle',
      title: `${lane.title} did nothing`,
      place: '',
      ...range,
      facts: [lengthFact(range), ...facts],
      callers: [],
      chain: [],
    };
  }

  #summaryOf(lane: Lane, ref: number): ItemSummary {
    switch (lane.kind) {
      case 'inputs':
        return this.#input(ref);
      case 'frames':
        return this.#frame(ref);
      case 'sync':
        return forcedDetails(this.#context, ref);
      case 'activity':
        return activityDetails(this.#context, ref);
      case 'thread':
        return this.#ofThread(lane, ref);
      case 'requests':
        return requestDetails(this.#context, ref);
      case 'spans':
        return spanDetails(this.#context, ref);
      case 'memory':
        return memoryDetails(this.#context, ref);
      case 'redraws':
        return redrawDetails(this.#context, ref);
      case 'states':
        return stateDetails(this.#context, ref);
    }
  }

  #input(ref: number): ItemSummary {
    const { label, startMs, feltMs, measured, processingStartMs, processingEndMs, type } = interactionsOf(
      this.recording,
    )[ref]!;
    const { responseMs } = this.#thresholds;
    // Browsers tell it in steps of some milliseconds.
    const felt = `${measured ? '' : 'below '}${durationText(feltMs)}`;
    return {
      what: 'Interaction',
      title: label,
      startMs,
      endMs: startMs + feltMs,
      facts: [
        {
          label: 'felt',
          text: `${felt}, budget ${durationText(responseMs)}`,
          over: measured && feltMs > responseMs,
        },
        ...(measured
          ? [
              { label: 'waiting', text: msText(processingStartMs - startMs) },
              { label: 'handling', text: msText(processingEndMs - processingStartMs) },
              { label: 'drawing', text: msText(startMs + feltMs - processingEndMs) },
            ]
          : []),
        { label: 'longest event', text: type },
      ],
      others: () =>
        othersAmong(
          interactionsOf(this.recording).map((one) => ({ ...one, durationMs: one.feltMs })),
          (one) => one.label === label && one.measured,
        ),
    };
  }

  #frame(ref: number): ItemSummary {
    const { startMs, endMs, missed } = frameTimes(this.recording, 0)[ref]!;
    const { refreshMs } = this.recording.header;
    const render = [...this.recording.events.render.overlapping(startMs, endMs + 0.001)].at(-1);
    return {
      what: 'Frame',
      title: missed >= 1 ? `Late frame, ${missed} missed` : 'Frame in time',
      startMs,
      endMs,
      facts: [
        {
          label: 'work for it',
          text: `${msText(endMs - startMs)}, budget ${msText(refreshMs)}`,
          over: missed >= 1,
        },
        ...(render === undefined
          ? []
          : [
              { label: 'style', text: msText(render.styleMs) },
              { label: 'layout', text: msText(render.layoutMs) },
              { label: 'paint', text: msText(render.paintMs) },
            ]),
      ],
      chain: () => this.#chain(0, { startMs, endMs }),
    };
  }

  #ofThread(lane: Lane, ref: number): ItemSummary {
    const { recording } = this;
    const item = threadItem(recording, lane.thread, ref);
    if (item.type === 'task') {
      const range = threadParts(recording, lane.thread).stretches[item.index]!;
      const { longTaskMs } = this.#thresholds;
      const lengthMs = range.endMs - range.startMs;
      return {
        what: 'Busy stretch',
        title: `Busy for ${msText(lengthMs)}`,
        ...range,
        facts: [
          {
            label: 'length',
            text: `${msText(lengthMs)}, budget ${longTaskMs} ms`,
            over: lengthMs > longTaskMs,
          },
          { label: 'entries into script', text: String(handlersIn(recording, lane.thread, range).length) },
        ],
        chain: () => this.#chain(lane.thread, range),
      };
    }
    const { spans, index, exact } = item;
    const startMs = spans.startsUs[index]! / 1000;
    const endMs = spans.endsUs[index]! / 1000;
    const path = recording.stacks.path(spans.stacks[index]!).map((id) => canonicalFunction(recording, id));
    const functionId = path.at(-1)!;
    return {
      what: exact ? 'Call' : 'Seen on the stack',
      ...this.#named(functionId),
      functionId,
      startMs,
      endMs,
      facts: [
        { label: 'length', text: msText(endMs - startMs) },
        { label: 'code', text: OWNER_WORDS[namedFunction(recording, functionId).owner] },
        { label: 'known by', text: exact ? 'exact calls' : 'samples and entries into script' },
      ],
      callers: path
        .slice(0, -1)
        .reverse()
        .map((id) => {
          const { title: name, place } = this.#named(id);
          return { functionId: id, name, place };
        }),
      chain: () => this.#chain(lane.thread, { startMs, endMs }),
      others: () => callStatistics(recording, lane.thread, functionId),
    };
  }

  get #thresholds() {
    return thresholdsOf(this.recording.header);
  }

  #named(functionId: number): { title: string; place: string } {
    const { name, place } = namedFunction(this.recording, functionId);
    return { title: name, place };
  }

  /** How the longest entry into script in a range came to run. */
  #chain(thread: number, range: TimeRange): ChainStep[] {
    const chain = causeInRange(this.recording, thread, range);
    return chain.length > 1 ? chain.map((link) => this.#step(link)) : [];
  }

  #step(link: CauseLink): ChainStep {
    const { startMs } = link;
    if (link.type === 'input') return { words: link.label, startMs };
    const named = link.functionId === undefined ? undefined : this.#named(link.functionId);
    const by = link.functionId === undefined ? {} : { functionId: link.functionId };
    if (link.type === 'handler') return { words: named?.title ?? link.entry, startMs, ...by };
    const asked = askedWords({
      type: link.what,
      ...(link.delayMs === undefined ? {} : { delayMs: link.delayMs }),
      ...(link.url === undefined ? {} : { url: link.url }),
    });
    return { words: `asked for ${asked}`, startMs, ...by };
  }

  #stingAt(thread: number, { startMs, endMs }: TimeRange): number {
    const middle = (startMs + endMs) / 2;
    const found = this.stings.findIndex(
      (sting) => sting.thread === thread && sting.startMs <= middle && sting.endMs >= middle,
    );
    return found;
  }
}

function lengthFact({ startMs, endMs }: TimeRange): Fact {
  return { label: 'for', text: msText(endMs - startMs) };
}

function reasonFact(reason: IdleReason): Fact {
  const label = 'waited for';
  if (reason.type === 'request')
    return {
      label,
      text: `the answer to ${originalPath(reason.url)}, ${msText(reason.endMs - reason.startMs)} on its way`,
    };
  if (reason.type === 'timer') return { label, text: `a timer of ${Math.round(reason.delayMs)} ms` };
  if (reason.type === 'person') return { label, text: 'the person to do something' };
  return { label, text: 'nothing that was recorded' };
}
