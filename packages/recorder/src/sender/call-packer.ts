import {
  CALL_END,
  MAIN_THREAD,
  ONE_OF_MANY,
  TIMED_EVERY,
  FORCED_LAYOUT_FUNCTION,
  FORCED_STYLE_FUNCTION,
  packCalls,
  toMicroseconds,
  type Row,
  unpackPositions,
  type ScriptPosition,
  type ScriptRegistration,
} from '@nettle-patch/core';
import { callerPosition, type CallChunk } from '../page/exact/call-event-buffer';

/** Events of one row: small enough for a batch to be sent and read without a stall. */
const EVENTS_A_ROW = 32_768;

/** Stands among the ids for that it was told that some are doubtful. */
const DOUBT = -1;

interface ChunkOfThread extends CallChunk {
  readonly recordingId: string;
  readonly thread: number;
  /** What the page's clock showed at time 0 of the recording. */
  readonly originMs: number;
}

interface Registered {
  readonly firstId: number;
  readonly registration: string;
  script?: ScriptRegistration;
  positions?: readonly ScriptPosition[];
  /** Another script has some of the same ids. */
  isDoubtful?: boolean;
}

/** Where a call stood: in which function, and at which line and column of its file where that is known. */
export interface CallPosition {
  readonly functionId: number;
  readonly at: { readonly line?: number; readonly column?: number };
}

function scriptOf(registered: Registered): ScriptRegistration {
  return (registered.script ??= JSON.parse(registered.registration) as ScriptRegistration);
}

function positionsOf(registered: Registered): readonly ScriptPosition[] {
  const { positions } = scriptOf(registered);
  return (registered.positions ??= positions === undefined ? [] : unpackPositions(positions));
}

const endOf = (registered: Registered) =>
  registered.firstId + scriptOf(registered).functions.length + positionsOf(registered).length;

/** Turns chunks of exact calls into rows, each function told of when it is first met. */
export class CallPacker {
  /** In order of their ids. */
  readonly #registered: Registered[] = [];
  /** Of ids that were looked up since a script was registered last. */
  readonly #positions = new Map<number, CallPosition>();
  /** Functions and scripts a recording knows of already, by its id. */
  readonly #sent = new Map<string, Set<number>>();
  /** Calls that were open at the end of the latest chunk, the outermost first. */
  #open: number[] = [];
  /** How many pages came before in the recording, and how many had when the latest chunk came. */
  page = 0;
  #pageBefore = 0;

  /**
   * Takes note of a script. An app that keeps its scripts itself may give one that was rewritten by an earlier run of the
   * server, with ids that others have by now.
   */
  register(firstId: number, registration: string): void {
    if (this.#registered.some((known) => known.firstId === firstId && known.registration === registration))
      return;
    this.#positions.clear();
    const registered: Registered = { firstId, registration };
    for (const known of this.#registered) {
      if (known.firstId < endOf(registered) && firstId < endOf(known))
        known.isDoubtful = registered.isDoubtful = true;
    }
    this.#registered.push(registered);
    this.#registered.sort((a, b) => a.firstId - b.firstId);
  }

  /** Functions that ran on the main thread when its latest chunk ended, the outermost first. */
  get open(): readonly number[] {
    return this.#open;
  }

  forget(recordingId: string): void {
    this.#sent.delete(recordingId);
    this.#open = [];
  }

  /** Rows for one chunk: what is new about its functions, what was lost before it, and its events. */
  pack({ recordingId, thread, originMs, ids: given, timesMs, count, lost }: ChunkOfThread): Row[] {
    const ids = this.#withCallers(given.subarray(0, count));
    const rows: Row[] = this.functionRows(recordingId, ids);
    const at = (ms: number) => toMicroseconds(ms - originMs);
    const isNewPage = thread === MAIN_THREAD && this.page !== this.#pageBefore;
    if (isNewPage) this.#pageBefore = this.page;
    const isFresh = lost > 0 || isNewPage;
    if (lost > 0) {
      if (thread === MAIN_THREAD) this.#open = [];
      const startMs = at(timesMs[0]!) / 1000;
      rows.push({
        kind: 'drop',
        startMs,
        count: lost,
        reason: 'events of calls came faster than they could be taken',
      });
    }
    for (let from = 0; from < count; from += EVENTS_A_ROW) {
      const to = Math.min(count, from + EVENTS_A_ROW);
      const timesUs = timesMs.slice(from, to);
      for (let event = 0; event < timesUs.length; event++) timesUs[event] = at(timesUs[event]!);
      const packed = packCalls(thread, { timesUs, functions: ids.subarray(from, to) });
      rows.push({ kind: 'calls', ...packed, ...(isFresh && from === 0 ? { fresh: true } : {}) });
    }
    if (thread !== MAIN_THREAD) return rows;
    for (let event = 0; event < count; event++) {
      if (ids[event] === CALL_END) this.#open.pop();
      else this.#open.push(ids[event]!);
    }
    return rows;
  }

  /** Events with the functions of callers that were told by their positions. */
  #withCallers(ids: Int32Array): Int32Array {
    if (!ids.some((id) => callerPosition(id) !== undefined)) return ids;
    return ids.map((id) => this.functionOf(id));
  }

  /** The function that an event of the calls stands for. */
  functionOf(id: number): number {
    const position = callerPosition(id);
    return position === undefined ? id : this.positionOf(position).functionId;
  }

  /** Rows about those of some functions that a recording does not know of yet. */
  functionRows(recordingId: string, ids: Int32Array | readonly number[]): Row[] {
    let sent = this.#sent.get(recordingId);
    if (sent === undefined) this.#sent.set(recordingId, (sent = new Set()));
    const rows: Row[] = [];
    for (const id of ids) {
      if (id === CALL_END || sent.has(id)) continue;
      sent.add(id);
      rows.push(...this.#rowsOf(id, sent));
    }
    return rows;
  }

  /** Where a call stood that is known by the id of its function, or of a position in it. */
  positionOf(id: number): CallPosition {
    let position = this.#positions.get(id);
    if (position === undefined) this.#positions.set(id, (position = this.#lookUp(id)));
    return position;
  }

  #lookUp(id: number): CallPosition {
    const known = this.#registered.findLast(({ firstId }) => firstId <= id);
    if (known === undefined || known.isDoubtful) return { functionId: id, at: {} };
    const position = positionsOf(known)[id - known.firstId - scriptOf(known).functions.length];
    if (position === undefined) return { functionId: id, at: {} };
    const { functionIndex, line, column } = position;
    return { functionId: known.firstId + functionIndex, at: { line, column } };
  }

  /** Said once in a recording. */
  #doubtRows(sent: Set<number>): Row[] {
    if (sent.has(DOUBT)) return [];
    sent.add(DOUBT);
    return [
      {
        kind: 'drop',
        startMs: 0,
        count: 1,
        reason:
          'some functions have no name, as the app gave a script that it has kept from before the tool was started anew: have the app forget what it keeps',
      },
    ];
  }

  /** The same function once more, for those of its calls that stand for many. */
  #oneOfMany(id: number, sent: Set<number>): Row[] {
    const whole = id - ONE_OF_MANY;
    const rows = sent.has(whole) ? [] : this.#rowsOf(whole, sent);
    sent.add(whole);
    return [...rows, { kind: 'function', id, name: '', sameAs: whole, every: TIMED_EVERY }];
  }

  #rowsOf(id: number, sent: Set<number>): Row[] {
    if (id === FORCED_STYLE_FUNCTION || id === FORCED_LAYOUT_FUNCTION) {
      const activity = id === FORCED_STYLE_FUNCTION ? 'style' : 'layout';
      return [{ kind: 'function', id, name: `forced ${activity}`, owner: 'browser', activity }];
    }
    if (id >= ONE_OF_MANY) return this.#oneOfMany(id, sent);
    const known = this.#registered.findLast(({ firstId }) => firstId <= id);
    if (known === undefined) return [{ kind: 'function', id, name: '' }];
    if (known.isDoubtful) return [{ kind: 'function', id, name: '' }, ...this.#doubtRows(sent)];
    const { firstId } = known;
    const script = scriptOf(known);
    const [name, file, line, column, library] = script.functions[id - firstId] ?? script.functions[0]!;
    const source = firstId;
    const rows: Row[] = [];
    if (!sent.has(-source)) {
      sent.add(-source);
      rows.push({ kind: 'source', id: source, url: script.url, exact: true });
    }
    const original = { originalFile: script.files[file]!, originalLine: line, originalColumn: column };
    const owner = library === 1 ? 'library' : 'own';
    const closer = script.closer === id - firstId ? { closer: true } : {};
    rows.push({ kind: 'function', id, name, source, originalName: name, ...original, owner, ...closer });
    return rows;
  }
}
