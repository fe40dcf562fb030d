import {
  CLOSE_TURNED_AWAY,
  CLOSE_WRONG_SECRET,
  FORMAT_NAME,
  FORMAT_VERSION,
  JOIN_PATH,
  ROWS_PATH,
  lookedForIn,
  measureCalculation,
  withLabels,
  PROTOCOL_VERSION,
  readCommand,
  writeBatch,
  type Batch,
  type Header,
  type Hello,
  type Row,
  type Target,
} from '@nettle-patch/core';
import type { FromSender, OutgoingRow, PageHeader, PageTarget, ToSender } from '../messages';
import { sharesMemory } from '../page/shared-memory';
import { CallPacker } from './call-packer';
import { clockReading, clockStep } from './clock-step';
import { defined } from '../page/interned';
import { deviceName } from './device';
import { engineHere, isGecko } from './engine';
import { foreignParts } from './foreign-parts';
import { HeldLink } from './links/held-link';
import { targetSocketUrl, type Link, type LinkEvents } from './links/link';
import { SocketLink } from './links/socket-link';
import { FineThreads } from './fine-threads';
import { SampledTablesOfRecordings } from './sampled-tables-of';
import { TraceRows } from './trace-rows';
import { UnacknowledgedBatches } from './unacknowledged';
import { Watchdog } from './watchdog';
import { Workers } from './workers';

const RETRY_MS = 1000;
/** Codes from here on are given by the server (RFC 6455, section 7.4.2). */
const FIRST_OWN_CODE = 4000;
/** Characters that a request may have which is to outlive its page (Fetch, section 4.5: 64 kB of bytes). */
const MAX_KEPT_ALIVE = 16_000;
/** By then the page has come up. */
const CALCULATE_AFTER_MS = 3000;
const SOURCES_OF_SOME = ['longtask', 'long-animation-frame', 'js-self-profiling', 'memory', 'layout-shift'];
const MAX_TITLE = 200;

/** Owns the connection to the server, so that it lives while the page's main thread hangs. */
export class Sender {
  readonly #batches = new UnacknowledgedBatches();
  #scriptUrl = '';
  #secret = '';
  #target: PageTarget | undefined;
  #link: Link | undefined;
  /** Whether another worker may have to keep the web socket. */
  #hasHolder = isGecko();
  /** Whether the connection was lost: an engine ends it already when a page begins to load the next. */
  #cutOff = false;
  #closer: string | undefined;
  #calculationMs: number | undefined;

  readonly #calls = new CallPacker();
  readonly #tables = new SampledTablesOfRecordings();
  readonly #traces = new TraceRows(this.#tables);
  readonly #fine = new FineThreads(this.#calls, this.#tables, (recordingId, rows) =>
    this.#add(recordingId, rows),
  );
  readonly #watchdog = new Watchdog(this.#calls, this.#fine);
  readonly #workers = new Workers(this.#calls, this.#fine, (recordingId, rows) =>
    this.#add(recordingId, rows),
  );
  readonly #sequences = new Map<string, number>();
  /** Rows made here that wait for the page's next batch, or for the page to fall silent. */
  readonly #more = new Map<string, Row[]>();

  /** @param toPage hands a message to the page */
  constructor(private readonly toPage: (message: FromSender, transfer?: Transferable[]) => void) {}

  /** Takes a message of the page. What goes wrong with it is told in the recording, and never to the page. */
  take(message: ToSender): void {
    try {
      this.#take(message);
    } catch (error) {
      if (!('recordingId' in message)) return;
      const reason = `the recorder failed at "${message.type}": ${String(error)}`;
      this.#add(message.recordingId, [{ kind: 'drop', startMs: 0, count: 1, reason }]);
    }
  }

  #take(message: ToSender): void {
    switch (message.type) {
      case 'connect':
        this.#scriptUrl = message.scriptUrl;
        this.#secret = message.secret;
        this.#connect();
        break;
      case 'target':
        this.#target = message.target;
        this.#sayHello();
        break;
      case 'batch':
        this.#batch(message);
        break;
      case 'register':
        this.#calls.register(message.firstId, message.registration);
        this.#noteCloser(lookedForIn(message.registration));
        break;
      case 'looks':
      case 'counts':
      case 'open-positions':
        this.#fine.take(message);
        break;
      case 'calls':
        this.#add(message.recordingId, this.#calls.pack(message));
        this.toPage({ type: 'buffers', ids: message.ids, timesMs: message.timesMs }, [
          message.ids.buffer,
          message.timesMs.buffer,
        ]);
        break;
      case 'trace':
        this.#add(message.recordingId, this.#traces.rows(message));
        break;
      case 'tick':
        this.#add(message.recordingId, this.#watchdog.tick(message));
        break;
      case 'worker-began':
        this.#workers.join(message.thread, message.name, message.port);
        break;
      case 'workers':
        if (message.recording === undefined) this.#fine.end();
        this.#workers.record(message.recording);
        break;
      case 'open-calls':
        this.#watchdog.open = message.open;
        break;
    }
  }

  /** Looks whether the page hangs, and sends what has waited for a page that is silent. To be called often. */
  watch(): void {
    const found = this.#watchdog.look();
    if (found !== undefined) this.#add(found.recordingId, found.rows);
    for (const [recordingId, rows] of this.#more) {
      if (rows.length === 0 || !this.#sequences.has(recordingId) || !this.#watchdog.silent) continue;
      this.#more.delete(recordingId);
      this.#sendRows(recordingId, rows, false);
      this.toPage({ type: 'sent-more', recordingId });
    }
  }

  #add(recordingId: string, rows: readonly Row[]): void {
    const more = this.#more.get(recordingId) ?? [];
    more.push(...rows);
    this.#more.set(recordingId, more);
  }

  #connect(): void {
    let wasOpen = false;
    const events: LinkEvents = {
      opened: () => {
        wasOpen = true;
        this.#cutOff = false;
        this.#sayHello();
        this.#sendAll();
        if (this.#isElsewhere) setTimeout(() => this.#calculate(), CALCULATE_AFTER_MS);
      },
      heard: (text) => this.#command(text),
      closed: (code) => {
        // Only what was cut off: where the server is away or has turned the page away, nothing would take it.
        this.#cutOff = wasOpen && code < FIRST_OWN_CODE;
        if (this.#cutOff) this.#sendAll();
        void this.#reconnect(code);
      },
    };
    this.#link =
      this.#hasHolder && new URL(this.#scriptUrl).origin === location.origin
        ? new HeldLink(this.#secret, events, () => (this.#hasHolder = false))
        : new SocketLink(targetSocketUrl(this.#scriptUrl), this.#secret, events);
  }

  async #reconnect(code: number): Promise<void> {
    if (code === CLOSE_TURNED_AWAY) return;
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    if (code === CLOSE_WRONG_SECRET) await this.#joinAnew();
    this.#connect();
  }

  /** A server started anew has a new secret, which pages of its origin may ask for. */
  async #joinAnew(): Promise<void> {
    try {
      const answer = await fetch(new URL(JOIN_PATH, this.#scriptUrl), { cache: 'no-store' });
      if (answer.ok) this.#secret = await answer.text();
    } catch {
      return;
    }
  }

  #command(text: string): void {
    const command = readCommand(text);
    if (command === undefined) return;
    if (command.type === 'acknowledge') this.#batches.acknowledge(command.recordingId, command.sequence);
    else if (command.type === 'follow') this.#sendAll();
    else this.toPage({ type: 'command', command });
  }

  #batch({ recordingId, sequence, page, rows, last }: Extract<ToSender, { type: 'batch' }>): void {
    this.#sequences.set(recordingId, Math.max(sequence, this.#sequences.get(recordingId) ?? 0));
    this.#watchdog.page = this.#tables.page = this.#calls.page = page;
    const more = this.#more.get(recordingId) ?? [];
    this.#more.delete(recordingId);
    const end = last ? rows.slice(-1) : [];
    this.#sendRows(recordingId, [...rows.slice(0, rows.length - end.length), ...more, ...end], last);
    // From here on numbers are given by the page that follows.
    if (last || rows.some(isLeave)) this.#sequences.delete(recordingId);
    if (!last) return;
    this.#calls.forget(recordingId);
    this.#tables.forget(recordingId);
  }

  #sendRows(recordingId: string, rows: readonly OutgoingRow[], last: boolean): void {
    const sequence = this.#sequences.get(recordingId) ?? 0;
    this.#sequences.set(recordingId, sequence + 1);
    const batch: Batch = { type: 'rows', targetId: this.#target!.id, recordingId, sequence, last };
    const dropped = this.#batches.takeDropped();
    // The header of a page that goes on with a recording is not that of the recording.
    const kept = this.#tables.page === 0 ? rows : rows.filter(({ kind }) => kind !== 'header');
    const drops = dropRows(dropped, rows);
    // A batch that the page has sent itself begins with the same lines; the last ends with the end.
    const all = last ? [...drops, ...kept] : [...kept, ...drops];
    const lines = all.map((row) => this.#line(row)).join('');
    this.#batches.add(batch, lines, rows.length + dropped);
    this.#sendBatch(batch, lines);
  }

  /** Without a connection a batch goes by itself, in case the page is gone before there is one again. */
  #sendBatch(batch: Batch, lines: string): void {
    const text = writeBatch(batch, lines);
    if (!this.#cutOff) return this.#link?.say(text);
    fetch(new URL(`${ROWS_PATH}?secret=${encodeURIComponent(this.#secret)}`, this.#scriptUrl), {
      method: 'POST',
      body: text,
      keepalive: text.length < MAX_KEPT_ALIVE,
    }).catch(() => undefined);
  }

  #line(row: OutgoingRow): string {
    return `${JSON.stringify(row.kind === 'header' ? headerOf(row, this.#target!) : withLabels(row))}\n`;
  }

  /** Whether the page runs on another computer than the tool, so that it matters how quick it is. */
  get #isElsewhere(): boolean {
    return new URL(this.#scriptUrl).hostname !== 'localhost';
  }

  /** @param place of the function that the page looks at closer; undefined where a script says nothing of it */
  #noteCloser(place: string | undefined): void {
    if (place === undefined || place === this.#closer) return;
    this.#closer = place;
    this.#sayHello();
  }

  /** Measures how quick the device is, once. */
  #calculate(): void {
    if (this.#calculationMs !== undefined) return;
    this.#calculationMs = measureCalculation(() => performance.now());
    this.#sayHello();
  }

  #sayHello(): void {
    if (this.#target === undefined) return;
    const target: Target = {
      ...withDevice(this.#target),
      calculationMs: this.#calculationMs,
      closer: this.#closer,
      isolated: globalThis.isSecureContext ? crossOriginIsolated : undefined,
    };
    const hello: Hello = { type: 'hello', protocol: PROTOCOL_VERSION, target };
    this.#link?.say(JSON.stringify(hello));
  }

  #sendAll(): void {
    for (const { batch, lines } of this.#batches.list()) this.#sendBatch(batch, lines);
  }
}

/** Adds to what the page tells of itself the engine and the device. */
function withDevice<T extends PageTarget>({ isSmallAndTouched, loadedFrames, loadedFiles, ...rest }: T) {
  return {
    ...rest,
    foreign: foreignParts(rest.url, { loadedFrames, loadedFiles }),
    title: rest.title.slice(0, MAX_TITLE),
    missing: missingBeside(rest),
    engine: engineHere(),
    device: deviceName(isSmallAndTouched),
  };
}

/** Sources that this page cannot give: those it has tried, and those of other engines, whose file it has not got. */
function missingBeside({ available, missing }: Pick<PageTarget, 'available' | 'missing'>): string[] {
  const others = SOURCES_OF_SOME.filter((name) => !available.includes(name));
  return [...new Set([...missing, ...others])];
}

/** The header of a recording of a page, which is called by its address: its title is shown live, and not kept. */
function headerOf({ originEpochMs, ...header }: PageHeader, page: PageTarget): Header {
  const { url, engine, device, refreshMs } = withDevice(page);
  const title = url.slice(url.indexOf('//') + 2);
  return {
    ...header,
    missing: missingBeside(header),
    format: FORMAT_NAME,
    version: FORMAT_VERSION,
    startedAt: new Date(originEpochMs).toISOString(),
    title,
    mode: header.available.includes('exact-calls') ? 'exact' : 'everyday',
    ...(header.available.includes('fine-samples') ? { fine: true } : {}),
    isolated: sharesMemory(),
    clockStepMs: clockStep(),
    ...defined({ clockReadMs: clockReading() }),
    refreshMs: refreshMs!,
    target: { title, url, engine, device },
  };
}

const isLeave = (row: OutgoingRow) => row.kind === 'state' && row.type === 'leave';

function dropRows(count: number, rows: readonly OutgoingRow[]): Row[] {
  if (count === 0) return [];
  const at = rows.find((row): row is Row & { startMs: number } => 'startMs' in row);
  return [{ kind: 'drop', startMs: at?.startMs ?? 0, count, reason: 'nobody took the rows in time' }];
}
