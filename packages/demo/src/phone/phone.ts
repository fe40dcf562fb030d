import type { EmittedRow } from '../../../../docs/reference-emitter.mjs';
import { between, seededRandom } from '../data/random';
import { functionId, functionRows, type CodeName } from './code';
import type { PhoneFault } from '@nettle-patch/core';
import { Tape, type Work } from './tape';

export interface PhoneSettings {
  readonly seed: number;
  readonly hz: 60 | 120;
  /** Faults that are mended. */
  readonly mended: ReadonlySet<PhoneFault>;
}

const MAIN = 0;
const PICTURES = 1;
const STORE = 2;
/** One round of what the deckhand does. Milliseconds. */
const ROUND_MS = 6000;
const ROWS_ON_SCREEN = 14;
const LONG_TASK_MS = 50;

/**
 * The deckhand's phone: a main thread with its message loop, a display that asks for pictures, and two worker threads.
 * What happens depends on nothing but the seed and the settings, and is told up to any time.
 */
export class Phone {
  readonly #tape = new Tape();
  readonly #random: () => number;
  readonly #refreshMs: number;
  #round = 0;
  #interaction = 0;
  #shownUntilMs = 0;

  constructor(private readonly settings: PhoneSettings) {
    this.#random = seededRandom(settings.seed);
    this.#refreshMs = 1000 / settings.hz;
    const threads = ['main thread', 'pictures', 'store'];
    threads.forEach((name, id) =>
      this.#tape.add({ kind: 'thread', id, name, type: id === MAIN ? 'main' : 'worker' }),
    );
    this.#tape.add(...functionRows());
  }

  /** Rows of all rounds that are over by a time. Milliseconds from the start. */
  until(ms: number): EmittedRow[] {
    while ((this.#round + 1) * ROUND_MS <= ms) this.#play(this.#round++ * ROUND_MS);
    return this.#tape.take();
  }

  #play(startMs: number): void {
    const after = (low: number, high: number) => startMs + between(this.#random, low, high);
    this.#openDeck(after(200, 400));
    this.#scan(after(1500, 1700));
    this.#scroll(after(2800, 2950));
    this.#sync(after(4300, 4500));
    this.#shown(startMs + ROUND_MS);
    this.#tape.tellCounts();
    const usedKb = 40_000 + between(this.#random, 0, 9000);
    this.#tape.add({ kind: 'memory', thread: MAIN, startMs, usedKb });
  }

  #isMended(fault: PhoneFault): boolean {
    return this.settings.mended.has(fault);
  }

  /** Opens a screen: views are made, measured and drawn. */
  #openDeck(ms: number): void {
    const deep = !this.#isMended('deep-views');
    const rows = Array.from({ length: ROWS_ON_SCREEN }, (): Work[] => [
      { path: ['dispatch', 'touch', 'openDeck', 'inflateRow'], ms: deep ? 2.4 : 0.3 },
      {
        path: ['dispatch', 'touch', 'openDeck', 'inflateRow', 'inflate'],
        ms: deep ? 13 : 1.2,
        calls: deep ? 26 : 3,
      },
    ]).flat();
    this.#tap(ms, 'button “Deck list”', 'openDeck', rows, deep ? 44 : 7, 9);
    this.#tape.add({ kind: 'state', thread: MAIN, startMs: ms + 1, type: 'screen', value: 'Deck list' });
  }

  /** Scans a ticket: its picture is decoded, on the main thread or beside it. */
  #scan(ms: number): void {
    const decodeMs = between(this.#random, 300, 360);
    const onMain = !this.#isMended('decode-on-main');
    const work: Work[] = [{ path: ['dispatch', 'touch', 'scan'], ms: 6 }];
    if (onMain) work.push({ path: ['dispatch', 'touch', 'scan', 'decode'], ms: decodeMs });
    this.#tap(ms, 'button “Scan ticket”', 'scan', work, 3, 6);
    if (onMain) return;
    this.#tape.work(PICTURES, ms + 8, [{ path: ['decode'], ms: decodeMs }]);
    this.#state(PICTURES, ms + 8, decodeMs, 'running');
  }

  /** Scrolls the deck list, picture by picture. */
  #scroll(ms: number): void {
    const collects = !this.#isMended('garbage-in-scroll');
    const frames = Math.round(900 / this.#refreshMs);
    for (let frame = 0; frame < frames; frame++) {
      const wantedMs = ms + frame * this.#refreshMs;
      if (wantedMs < this.#shownUntilMs) continue;
      const isStopped = collects && frame % 12 === 11;
      const collectMs = between(this.#random, 34, 46);
      const work: Work[] = [{ path: ['dispatch', 'bind'], ms: 2.2 }];
      if (isStopped) work.push({ path: ['dispatch', 'bind', 'collect'], ms: collectMs });
      if (isStopped)
        this.#tape.add({ kind: 'collection', thread: MAIN, startMs: wantedMs + 2.2, durationMs: collectMs });
      const doneMs = this.#tape.work(MAIN, wantedMs, work);
      this.#handler(wantedMs, doneMs, 'Frame of the deck list', 'bind');
      this.#picture(wantedMs, doneMs, 1, 1.6);
    }
  }

  /** Taps for a sync of the manifest: the main thread wants what the store's thread holds. */
  #sync(ms: number): void {
    const heldMs = between(this.#random, 240, 300);
    const waits = !this.#isMended('shared-lock');
    this.#tape.work(STORE, ms - 4, [{ path: ['writeRows'], ms: heldMs + 4 }]);
    this.#state(STORE, ms - 4, heldMs + 4, 'running');
    this.#state(STORE, ms + heldMs, 600, 'waiting');
    const work: Work[] = [{ path: ['dispatch', 'touch', 'sync'], ms: 4 }];
    if (waits) work.push({ path: ['dispatch', 'touch', 'sync', 'waitForLock'], ms: heldMs - 5 });
    work.push({ path: ['dispatch', 'touch', 'sync'], ms: 3, calls: 0 });
    this.#tap(ms, 'button “Sync manifest”', 'sync', work, 2, 4);
  }

  /** A touch, what it is answered with, and the picture that shows the answer. */
  #tap(
    ms: number,
    target: string,
    entered: CodeName,
    work: readonly Work[],
    layoutMs: number,
    paintMs: number,
  ): void {
    const beginsMs = ms + 1;
    const doneMs = this.#tape.work(MAIN, beginsMs, work);
    this.#handler(beginsMs, doneMs, `Touch on ${target}`, entered);
    const shownMs = this.#picture(beginsMs, doneMs, layoutMs, paintMs);
    this.#tape.add({
      kind: 'input',
      thread: MAIN,
      startMs: ms,
      durationMs: shownMs - ms,
      type: 'click',
      processingStartMs: beginsMs,
      processingEndMs: doneMs,
      interaction: ++this.#interaction,
      target,
    });
    const endMs = doneMs + layoutMs + paintMs;
    if (endMs - beginsMs > LONG_TASK_MS)
      this.#tape.add({
        kind: 'task',
        thread: MAIN,
        startMs: beginsMs,
        durationMs: endMs - beginsMs,
        source: 'own',
      });
    this.#states(beginsMs, work);
  }

  #handler(startMs: number, endMs: number, invoker: string, entered: CodeName): void {
    this.#tape.add({
      kind: 'handler',
      thread: MAIN,
      startMs,
      durationMs: endMs - startMs,
      type: 'message',
      invoker,
      function: functionId(entered),
    });
  }

  /** Lays out and draws; the display shows it when it next asks. @returns when it is shown */
  #picture(beganMs: number, fromMs: number, layoutMs: number, paintMs: number): number {
    const durationMs = layoutMs + paintMs;
    this.#tape.add({
      kind: 'render',
      thread: MAIN,
      startMs: fromMs,
      durationMs,
      styleMs: 0,
      layoutMs,
      paintMs,
    });
    const refreshMs = this.#refreshMs;
    const shownMs = Math.ceil((fromMs + durationMs) / refreshMs) * refreshMs;
    const askedMs = Math.ceil(beganMs / refreshMs) * refreshMs;
    const missed = Math.round((shownMs - askedMs) / refreshMs) - 1;
    if (missed > 0) {
      this.#shown(askedMs);
      this.#tape.add({ kind: 'sync', startMs: askedMs, durationMs: shownMs - askedMs, shown: 0, missed });
      this.#shownUntilMs = shownMs;
    }
    return shownMs;
  }

  /** All pictures up to a time were in time. */
  #shown(untilMs: number): void {
    const shown = Math.round((untilMs - this.#shownUntilMs) / this.#refreshMs);
    if (shown <= 0) return;
    const startMs = this.#shownUntilMs;
    this.#tape.add({ kind: 'sync', startMs, durationMs: untilMs - startMs, shown, missed: 0 });
    this.#shownUntilMs = untilMs;
  }

  /** What the main thread did during its work: it ran, but where it wanted a lock. */
  #states(startMs: number, work: readonly Work[]): void {
    let [fromMs, atMs] = [startMs, startMs];
    const ran = () => {
      if (atMs > fromMs) this.#state(MAIN, fromMs, atMs - fromMs, 'running');
    };
    for (const { path, ms } of work) {
      if (path.at(-1) === 'waitForLock') {
        ran();
        this.#state(MAIN, atMs, ms, 'blocked', 'the lock of the manifest');
        fromMs = atMs + ms;
      }
      atMs += ms;
    }
    ran();
  }

  #state(thread: number, startMs: number, durationMs: number, state: string, on?: string): void {
    this.#tape.add({
      kind: 'activity',
      thread,
      startMs,
      durationMs,
      state,
      ...(on === undefined ? {} : { on }),
    });
  }
}
