import {
  engineName,
  type TrialAnswer,
  type TrialBlock,
  type TrialProblem,
  type TrialQuestion,
} from '@nettle-patch/core';
import { failedImport } from './failed-import';
import { valueText, type ValueText } from './value-text';

/** The module of an alternative, as `trialModule` of the core writes it. */
interface AlternativeModule {
  readonly once: () => unknown;
  readonly turns: (count: number, kept: unknown[]) => void;
  readonly awaitedTurns: (count: number, kept: unknown[]) => Promise<void>;
}

interface Loaded {
  readonly module: AlternativeModule;
  /** Whether what it gives is waited for. */
  isAwaited: boolean;
}

/** Longest text of a result that is shown. */
const MAX_SHOWN = 400;
const MAX_MESSAGE = 1000;
const CLOCK_CHANGES = 12;
/** A clock that does not change for so many looks stands still for this purpose. */
const MAX_LOOKS = 5_000_000;

/** The smallest step the clock here makes. Milliseconds. */
function clockStepMs(): number {
  let least = Infinity;
  let before = performance.now();
  for (let changes = 0, looks = 0; changes < CLOCK_CHANGES && looks < MAX_LOOKS; looks++) {
    const now = performance.now();
    if (now === before) continue;
    least = Math.min(least, now - before);
    before = now;
    changes++;
  }
  return least === Infinity ? 1 : least;
}

function heapBytes(): number | undefined {
  return (performance as { memory?: { usedJSHeapSize: number } }).memory?.usedJSHeapSize;
}

function isThenable(value: unknown): boolean {
  return typeof (value as { then?: unknown } | undefined)?.then === 'function';
}

/** Runs the alternatives of a trial in the place it was made in. */
export class TrialRunner {
  readonly #loaded = new Map<number, Loaded>();
  readonly #given = new Map<number, ValueText>();
  readonly #kept: unknown[] = [];

  /** @param base address under which the modules are */
  constructor(private readonly base: string) {}

  async answer(question: TrialQuestion): Promise<TrialAnswer> {
    try {
      return await this.#do(question);
    } catch (error) {
      return { problem: problemOf(error) };
    }
  }

  async #do(question: TrialQuestion): Promise<TrialAnswer> {
    switch (question.do) {
      case 'begin':
        return {
          begun: {
            clockStepMs: clockStepMs(),
            engine: engineName(navigator.userAgent, 'InternalError' in globalThis),
          },
        };
      case 'load':
        return this.#load(question.at);
      case 'check':
        return this.#check(question.at);
      case 'warm':
        return { turns: await this.#warm(question) };
      case 'time': {
        const blocks = [];
        for (const block of question.blocks) blocks.push(await this.#time(block));
        return { blocks };
      }
    }
  }

  async #load(at: number): Promise<TrialAnswer> {
    const address = `${this.base}alternative-${at}.js`;
    try {
      const module = (await import(address)) as AlternativeModule;
      this.#loaded.set(at, { module, isAwaited: false });
      return {};
    } catch (error) {
      const failed = error instanceof TypeError ? await failedImport(address) : undefined;
      return { problem: failed ?? problemOf(error) };
    }
  }

  async #check(at: number): Promise<TrialAnswer> {
    const loaded = this.#loaded.get(at)!;
    const call = async () => {
      const given = loaded.module.once();
      loaded.isAwaited = isThenable(given);
      return valueText(loaded.isAwaited ? await given : given);
    };
    const first = await call();
    const second = await call();
    this.#given.set(at, first);
    const same = [...this.#given].find(([, { text }]) => text === first.text)!;
    const { text } = first;
    return {
      checked: {
        text: text.length > MAX_SHOWN ? `${text.slice(0, MAX_SHOWN)}…` : text,
        sameAs: same[0],
        isSteady: second.text === text,
        isComparable: first.isWhole,
      },
    };
  }

  /** Doubles the turns until they last as long as a block, then goes on until it is warm. @returns turns of a block */
  async #warm({ at, blockMs, warmMs }: TrialQuestion & { do: 'warm' }): Promise<number> {
    const loaded = this.#loaded.get(at)!;
    const first = loaded.module.once();
    loaded.isAwaited = isThenable(first);
    if (loaded.isAwaited) await first;
    let turns = 1;
    let spentMs = 0;
    for (;;) {
      const { ms } = await this.#time({ at, turns });
      spentMs += ms;
      const isLong = ms >= blockMs;
      if (isLong && spentMs >= warmMs) return turns;
      // What got quicker while it became warm needs more turns for a block.
      if (!isLong) turns *= 2;
    }
  }

  async #time({ at, turns }: TrialBlock): Promise<{ ms: number; bytes?: number }> {
    const { module, isAwaited } = this.#loaded.get(at)!;
    const before = heapBytes();
    const beganMs = performance.now();
    if (isAwaited) await module.awaitedTurns(turns, this.#kept);
    else module.turns(turns, this.#kept);
    const ms = performance.now() - beganMs;
    const after = heapBytes();
    return before === undefined || after === undefined ? { ms } : { ms, bytes: after - before };
  }
}

/** What was thrown, with the line of the module where the engine tells it. */
function problemOf(thrown: unknown): TrialProblem {
  const error = thrown instanceof Error ? thrown : undefined;
  const line = /alternative-\d+\.js:(\d+)/.exec(error?.stack ?? '')?.[1];
  const message =
    error === undefined ? `it threw ${valueText(thrown).text}` : `${error.name}: ${error.message}`;
  return {
    kind: 'threw',
    message: message.slice(0, MAX_MESSAGE),
    ...(line === undefined ? {} : { line: Number(line) }),
  };
}
