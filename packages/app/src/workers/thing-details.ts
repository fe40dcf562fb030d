import {
  askedWords,
  canonicalFunction,
  causeChain,
  displayName,
  displayPlace,
  frameTimes,
  handlersIn,
  idleReasons,
  interactionsOf,
  originalPath,
  thresholdsOf,
  threadParts,
  threadThing,
  type CauseLink,
  type IdleReason,
  type Lane,
  type Recording,
  type Sting,
  type TimeRange,
} from '@nettle-patch/core';
import { callStatistics, spanStatistics, type Others } from './other-occurrences';

export interface Fact {
  readonly label: string;
  readonly text: string;
  readonly over?: boolean;
}

/** A step on the way from an input to what runs. */
export interface ChainStep {
  readonly words: string;
  readonly startMs: number;
  readonly functionId?: number;
}

/** All that is told of one thing in the time view. Times are milliseconds. */
export interface ThingDetails extends TimeRange {
  readonly lane: string;
  readonly ref: number | undefined;
  /** What it is: "Call", "Request", … */
  readonly what: string;
  readonly title: string;
  readonly place: string;
  readonly functionId?: number;
  readonly facts: readonly Fact[];
  /** Functions it was called from, the nearest first. */
  readonly callers: readonly { readonly functionId: number; readonly name: string; readonly place: string }[];
  /** How it came to run, from what a person did on. */
  readonly chain: readonly ChainStep[];
  readonly others?: Others;
  /** Index of the sting it belongs to. */
  readonly sting?: number;
}

const msWords = (ms: number) => `${ms < 10 ? ms.toFixed(2) : ms < 1000 ? ms.toFixed(1) : Math.round(ms)} ms`;
const kilobytes = (bytes: number) => `${(bytes / 1024).toFixed(bytes < 10_240 ? 1 : 0)} kB`;

type Told = Omit<ThingDetails, 'lane' | 'ref' | 'sting' | 'place' | 'facts' | 'callers' | 'chain'> &
  Partial<Pick<ThingDetails, 'place' | 'facts' | 'callers' | 'chain'>>;

/** Tells what is known of the things in the lanes of the time view. */
export class ThingTeller {
  constructor(
    private readonly recording: Recording,
    private readonly stings: readonly Sting[],
  ) {}

  tell(lane: Lane, ref: number): ThingDetails {
    const told = this.#told(lane, ref);
    const sting = this.#stingAt(lane.thread, told);
    return {
      lane: lane.id,
      ref,
      place: '',
      facts: [],
      callers: [],
      chain: [],
      ...told,
      ...(sting < 0 ? {} : { sting }),
    };
  }

  /** Why a thread did nothing at a time, or that nothing is known of it. */
  idle(lane: Lane, ms: number): ThingDetails {
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

  #told(lane: Lane, ref: number): Told {
    switch (lane.kind) {
      case 'inputs':
        return this.#input(ref);
      case 'frames':
        return this.#frame(ref);
      case 'thread':
        return this.#ofThread(lane, ref);
      case 'requests':
        return this.#request(ref);
      case 'spans':
        return this.#span(ref);
      case 'memory':
        return this.#memory(ref);
      case 'redraws':
        return this.#redraw(ref);
      case 'states':
        return this.#state(ref);
    }
  }

  #input(ref: number): Told {
    const { label, startMs, feltMs, measured, processingStartMs, processingEndMs, type } = interactionsOf(
      this.recording,
    )[ref]!;
    const { responseMs } = this.#thresholds;
    const felt = measured ? msWords(feltMs) : `below ${msWords(feltMs)}`;
    const same = interactionsOf(this.recording).filter((one) => one.label === label && one.measured);
    return {
      what: 'Interaction',
      title: label,
      startMs,
      endMs: startMs + feltMs,
      facts: [
        { label: 'felt', text: `${felt}, budget ${responseMs} ms`, over: measured && feltMs > responseMs },
        ...(measured
          ? [
              { label: 'waiting', text: msWords(processingStartMs - startMs) },
              { label: 'handling', text: msWords(processingEndMs - processingStartMs) },
              { label: 'drawing', text: msWords(startMs + feltMs - processingEndMs) },
            ]
          : []),
        { label: 'longest event', text: type },
      ],
      ...othersOf(same.length > 1 ? spanStatistics(same.map((one) => one.feltMs)) : undefined),
    };
  }

  #frame(ref: number): Told {
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
          text: `${msWords(endMs - startMs)}, budget ${refreshMs.toFixed(1)} ms`,
          over: missed >= 1,
        },
        ...(render === undefined
          ? []
          : [
              { label: 'style', text: msWords(render.styleMs) },
              { label: 'layout', text: msWords(render.layoutMs) },
              { label: 'paint', text: msWords(render.paintMs) },
            ]),
      ],
      chain: this.#chain(0, { startMs, endMs }),
    };
  }

  #ofThread(lane: Lane, ref: number): Told {
    const { recording } = this;
    const thing = threadThing(recording, lane.thread, ref);
    if (thing.type === 'task') {
      const range = threadParts(recording, lane.thread).stretches[thing.index]!;
      const { longTaskMs } = this.#thresholds;
      const lengthMs = range.endMs - range.startMs;
      return {
        what: 'Busy stretch',
        title: `Busy for ${msWords(lengthMs)}`,
        ...range,
        facts: [
          {
            label: 'length',
            text: `${msWords(lengthMs)}, budget ${longTaskMs} ms`,
            over: lengthMs > longTaskMs,
          },
          { label: 'entries into script', text: String(handlersIn(recording, lane.thread, range).length) },
        ],
        chain: this.#chain(lane.thread, range),
      };
    }
    const { spans, index, exact } = thing;
    const startMs = spans.startsUs[index]! / 1000;
    const endMs = spans.endsUs[index]! / 1000;
    const path = recording.stacks.path(spans.stacks[index]!).map((id) => canonicalFunction(recording, id));
    const functionId = path.at(-1)!;
    const others = callStatistics(recording, lane.thread, functionId);
    return {
      what: exact ? 'Call' : 'Seen on the stack',
      ...this.#named(functionId),
      functionId,
      startMs,
      endMs,
      facts: [
        { label: 'length', text: msWords(endMs - startMs) },
        { label: 'known by', text: exact ? 'exact calls' : 'samples and entries into script' },
      ],
      callers: path
        .slice(0, -1)
        .reverse()
        .map((id) => {
          const { title: name, place } = this.#named(id);
          return { functionId: id, name, place };
        }),
      chain: this.#chain(lane.thread, { startMs, endMs }),
      ...othersOf(others),
    };
  }

  #request(ref: number): Told {
    const row = this.recording.events.request.row(ref);
    const { url, startMs, durationMs, initiator, responseStartMs, bytes, status, function: by } = row;
    const named = by === undefined ? undefined : this.#named(canonicalFunction(this.recording, by));
    const facts: Fact[] = [
      { label: 'took', text: msWords(durationMs) },
      { label: 'asked for by', text: named === undefined ? initiator : `${initiator}, in ${named.title}` },
    ];
    if (responseStartMs !== undefined) {
      facts.push({ label: 'until the first byte', text: msWords(responseStartMs - startMs) });
      facts.push({ label: 'reading the answer', text: msWords(startMs + durationMs - responseStartMs) });
    }
    if (bytes !== undefined) facts.push({ label: 'size on the wire', text: kilobytes(bytes) });
    if (status !== undefined && status > 0)
      facts.push({ label: 'status', text: String(status), over: status >= 400 });
    const same = [...this.recording.events.request.rows()].filter((one) => one.url === url);
    return {
      what: 'Request',
      title: originalPath(url) || url,
      place: named?.place ?? '',
      startMs,
      endMs: startMs + durationMs,
      ...(by === undefined ? {} : { functionId: canonicalFunction(this.recording, by) }),
      facts,
      chain: this.#chain(0, { startMs, endMs: startMs + 0.001 }),
      ...othersOf(same.length > 1 ? spanStatistics(same.map((one) => one.durationMs)) : undefined),
    };
  }

  #span(ref: number): Told {
    const { name, type, startMs, durationMs } = this.recording.events.span.row(ref);
    const same = [...this.recording.events.span.rows()].filter((one) => one.name === name);
    const what: Readonly<Record<string, string>> = {
      mark: 'Mark',
      measure: 'Named span',
      note: 'Mark by hand',
    };
    return {
      what: what[type] ?? 'Named span',
      title: name,
      startMs,
      endMs: startMs + durationMs,
      facts: durationMs > 0 ? [{ label: 'length', text: msWords(durationMs) }] : [],
      chain: this.#chain(0, { startMs, endMs: startMs + Math.max(0.001, durationMs) }),
      ...othersOf(same.length > 1 ? spanStatistics(same.map((one) => one.durationMs)) : undefined),
    };
  }

  #memory(ref: number): Told {
    if (ref < 0) {
      const { startMs } = this.recording.events.collection.row(-2 - ref);
      return {
        what: 'Collection',
        title: 'Memory was collected',
        startMs,
        endMs: startMs,
        facts: [{ label: 'known by', text: 'an object that was given up; how long it took is not told' }],
      };
    }
    const { startMs, usedKb, limitKb } = this.recording.events.memory.row(ref);
    const before = ref === 0 ? undefined : this.recording.events.memory.row(ref - 1).usedKb;
    const change =
      before === undefined
        ? ''
        : `, ${usedKb >= before ? '+' : '−'}${kilobytes(Math.abs(usedKb - before) * 1024)}`;
    return {
      what: 'Memory',
      title: `${(usedKb / 1024).toFixed(1)} MB in use`,
      startMs,
      endMs: startMs,
      facts: [
        { label: 'in use', text: `${(usedKb / 1024).toFixed(1)} MB${change}` },
        ...(limitKb === undefined ? [] : [{ label: 'at most', text: `${(limitKb / 1024).toFixed(0)} MB` }]),
      ],
    };
  }

  #redraw(ref: number): Told {
    const row = this.recording.events.redraw.row(ref);
    const { startMs, nodes, attributes, texts, changed, inView, target, function: by } = row;
    const functionId = by === undefined ? undefined : canonicalFunction(this.recording, by);
    const named = functionId === undefined ? undefined : this.#named(functionId);
    return {
      what: 'Redraw',
      title: target ?? 'the document',
      place: named?.place ?? '',
      startMs,
      endMs: startMs,
      ...(functionId === undefined ? {} : { functionId }),
      facts: [
        { label: 'elements and texts', text: String(nodes) },
        { label: 'attributes', text: String(attributes) },
        { label: 'texts written', text: String(texts) },
        { label: 'to another value', text: changed ? 'yes' : 'no, all as it was before', over: !changed },
        { label: 'in view', text: inView ? 'yes' : 'no, nobody could see it', over: !inView },
        ...(named === undefined ? [] : [{ label: 'written by', text: named.title }]),
      ],
      chain: this.#chain(0, { startMs: startMs - 0.001, endMs: startMs + 0.001 }),
    };
  }

  #state(ref: number): Told {
    const { startMs, type, value } = this.recording.events.state.row(ref);
    return { what: 'Life of the page', title: `${type}: ${value}`, startMs, endMs: startMs };
  }

  get #thresholds() {
    return thresholdsOf(this.recording.header);
  }

  #named(functionId: number): { title: string; place: string } {
    const recorded = this.recording.functions.get(functionId);
    const source = recorded?.source === undefined ? undefined : this.recording.sources.get(recorded.source);
    return { title: displayName(recorded), place: displayPlace(recorded, source) };
  }

  /** How the longest entry into script in a range came to run. */
  #chain(thread: number, range: TimeRange): ChainStep[] {
    const [longest] = handlersIn(this.recording, thread, range).sort((a, b) => b.durationMs - a.durationMs);
    return longest === undefined ? [] : causeChain(this.recording, longest).map((link) => this.#step(link));
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

function othersOf(others: Others | undefined): { readonly others?: Others } {
  return others === undefined ? {} : { others };
}

function lengthFact({ startMs, endMs }: TimeRange): Fact {
  return { label: 'for', text: msWords(endMs - startMs) };
}

function reasonFact(reason: IdleReason): Fact {
  const label = 'waited for';
  if (reason.type === 'request')
    return {
      label,
      text: `the answer to ${originalPath(reason.url)}, ${msWords(reason.endMs - reason.startMs)} on its way`,
    };
  if (reason.type === 'timer') return { label, text: `a timer of ${Math.round(reason.delayMs)} ms` };
  if (reason.type === 'person') return { label, text: 'the person to do something' };
  return { label, text: 'nothing that was recorded' };
}
