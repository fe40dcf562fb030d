/**
 * Reference emitter: speaks the protocol of docs/protocol.md for anything that is no web page. One file, no
 * dependencies; it needs a WebSocket, `fetch`, base64 and timers, and nothing else, so it can be ported to any language.
 *
 *   const emitter = new Emitter('http://localhost:4781', target, { start, pause, goOn, stop, note });
 *   emitter.connect();
 *   emitter.add([{ kind: 'task', thread: 0, startMs: 10, durationMs: 80, source: 'own' }]);
 *
 * What ran meanwhile: a function, where in it its thread stood, when that was seen, and how often it was called.
 *
 *   emitter.add([
 *     { kind: 'function', id: 0, name: 'Manifest.sync', originalFile: 'app/manifest.hand', originalLine: 27 },
 *     { kind: 'stack', id: 0, function: 0, line: 33, column: 5 },
 *     samplesRow(0, 1, [{ timeUs: 10_500, stack: 0 }, { timeUs: 11_500, stack: NO_STACK }]),
 *     countsRow(0, 0, 1000, new Map([[0, 1]])),
 *   ]);
 */

const RESERVED = '/__nettle-patch/';
const RETRY_MS = 1000;
const WRONG_SECRET = 4401;
const TURNED_AWAY = 4403;
/** Characters that may wait for an acknowledgement; beyond, the oldest are given up and counted. */
const MAX_WAITING = 8 * 1024 * 1024;

/** The stack of a sample that saw nothing run. */
export const NO_STACK = -1;

/** A row of samples of one thread, in order of time. @param intervalMs how far apart they are meant to be */
export function samplesRow(thread, intervalMs, samples) {
  const startUs = samples[0]?.timeUs ?? 0;
  const numbers = samples.flatMap(({ timeUs, stack }, at) => [
    timeUs - (samples[at - 1]?.timeUs ?? startUs),
    stack + 1,
  ]);
  const count = samples.length;
  return { kind: 'samples', thread, startMs: startUs / 1000, intervalMs, count, data: packed(numbers) };
}

/** A row of how often functions were called in a while, by their ids: best one a second. */
export function countsRow(thread, startMs, durationMs, counts) {
  const called = [...counts].sort(([a], [b]) => a - b);
  const base = called[0]?.[0] ?? 0;
  const numbers = called.flatMap(([id, calls], at) => [id - (called[at - 1]?.[0] ?? base), calls]);
  return { kind: 'counts', thread, startMs, durationMs, count: called.length, base, data: packed(numbers) };
}

/** Whole numbers from 0, each in bytes of seven bits, the lowest first, and all but its last byte marked; as base64. */
function packed(numbers) {
  let bytes = '';
  for (let rest of numbers) {
    for (; rest > 127; rest = Math.floor(rest / 128)) bytes += String.fromCharCode((rest % 128) + 128);
    bytes += String.fromCharCode(rest);
  }
  return btoa(bytes);
}

export class Emitter {
  #base;
  #target;
  #on;
  #code;
  #secret = '';
  #socket;
  #closed = false;
  #recording;
  #sequence = 0;
  #waiting = [];
  #dropped = 0;

  /**
   * @param base address at which the app is recorded, as the tool shows it
   * @param target what can be recorded, as a hello presents it
   * @param on what to do on each command: start(recordingId) gives the header; stop() gives the row that ends
   * @param code by which a device of the room is let in; undefined on the computer of the tool
   */
  constructor(base, target, on, code) {
    this.#code = code;
    this.#base = base.replace(/\/$/, '');
    this.#target = { recording: null, visible: true, ...target };
    this.#on = on;
  }

  /** Connects, and again whenever the connection is lost, until it is closed. */
  async connect() {
    if (this.#secret === '') await this.#join();
    if (this.#closed) return;
    const address = `${this.#base.replace(/^http/, 'ws')}${RESERVED}target`;
    const socket = new WebSocket(address, ['nettle-patch', this.#secret || 'none']);
    this.#socket = socket;
    socket.addEventListener('open', () => {
      this.#hello();
      this.#sendAll();
    });
    socket.addEventListener('message', ({ data }) => this.#command(JSON.parse(data)));
    socket.addEventListener('error', () => undefined);
    socket.addEventListener('close', ({ code }) => {
      if (code === WRONG_SECRET) this.#secret = '';
      if (code === TURNED_AWAY) this.#closed = true;
      if (!this.#closed) setTimeout(() => void this.connect(), RETRY_MS);
    });
  }

  close() {
    this.#closed = true;
    this.#socket?.close();
  }

  /** Id of the recording that runs; undefined where none does. */
  get recordingId() {
    return this.#recording?.id;
  }

  /** Batches that the tool has not said it keeps. */
  get waiting() {
    return this.#waiting.length;
  }

  /** Sends rows of the recording that runs. */
  add(rows) {
    if (this.#recording !== undefined && rows.length > 0) this.#batch(rows, false);
  }

  async #join() {
    try {
      const answer =
        this.#code === undefined
          ? await fetch(`${this.#base}${RESERVED}join`)
          : await fetch(`${this.#base}${RESERVED}pair/${this.#code}`, {
              method: 'POST',
              headers: { accept: 'text/plain' },
            });
      if (answer.ok) this.#secret = await answer.text();
    } catch {
      this.#secret = '';
    }
  }

  #command({ type, recordingId, sequence = 0, text = '' }) {
    switch (type) {
      case 'start':
      case 'start-with-next-load':
        if (this.#recording !== undefined) return;
        this.#recording = { id: recordingId, sinceMs: Date.now(), state: 'recording' };
        this.#sequence = 0;
        this.#batch([{ ...this.#on.start(recordingId), id: recordingId }], false);
        break;
      case 'stop':
        if (this.#recording?.id !== recordingId) return;
        this.#batch([this.#on.stop()], true);
        this.#recording = undefined;
        break;
      case 'pause':
      case 'go-on':
        if (this.#recording === undefined) return;
        this.#recording.state = type === 'pause' ? 'paused' : 'recording';
        if (type === 'pause') this.#on.pause?.();
        else this.add(this.#on.goOn?.() ?? []);
        break;
      case 'note':
        this.add(this.#on.note?.(text) ?? []);
        break;
      case 'acknowledge':
        this.#waiting = this.#waiting.filter(
          ({ envelope }) => envelope.recordingId !== recordingId || envelope.sequence > sequence,
        );
        return;
      case 'follow':
        this.#sendAll();
        return;
      default:
        return;
    }
    this.#hello();
  }

  #hello() {
    const running = this.#recording;
    const recording =
      running === undefined
        ? null
        : { id: running.id, state: running.state, elapsedMs: Date.now() - running.sinceMs };
    this.#send(JSON.stringify({ type: 'hello', protocol: 1, target: { ...this.#target, recording } }));
  }

  #batch(rows, last) {
    const { id: targetId } = this.#target;
    const envelope = {
      type: 'rows',
      targetId,
      recordingId: this.#recording.id,
      sequence: this.#sequence++,
      last,
    };
    // The header must come first, so what was given up is told with a later batch.
    const lost = envelope.sequence === 0 ? 0 : this.#dropped;
    this.#dropped -= lost;
    const drop = { kind: 'drop', startMs: 0, count: lost, reason: 'nobody took the rows in time' };
    const all = lost === 0 ? rows : [drop, ...rows];
    const frame = `${JSON.stringify(envelope)}\n${all.map((row) => `${JSON.stringify(row)}\n`).join('')}`;
    this.#waiting.push({ envelope, frame, rows: rows.length + lost });
    let size = this.#waiting.reduce((sum, { frame: text }) => sum + text.length, 0);
    while (size > MAX_WAITING && this.#waiting.length > 2) {
      // The first batch holds the header, without which nothing can be read.
      const at = this.#waiting[0].envelope.sequence === 0 ? 1 : 0;
      const [given] = this.#waiting.splice(at, 1);
      size -= given.frame.length;
      this.#dropped += given.rows;
    }
    this.#send(frame);
  }

  #sendAll() {
    for (const { frame } of this.#waiting) this.#send(frame);
  }

  #send(text) {
    if (this.#socket?.readyState === WebSocket.OPEN) this.#socket.send(text);
  }
}
