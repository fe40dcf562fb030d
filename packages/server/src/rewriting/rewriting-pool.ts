import { availableParallelism } from 'node:os';
import { setFlagsFromString } from 'node:v8';
import { Worker } from 'node:worker_threads';
import type { RewritingStage } from '@nettle-patch/core';
import { UnrewritableError } from '@nettle-patch/instrument';
import { builtPath } from '../assets';
import type { FromThread, Job, ToThread } from './rewriting-messages';

/** Megabytes of stack: the parser calls itself, as deep as the code of a stranger is nested. */
const STACK_MB = 64;
/** Megabytes in which what is new is collected: with few, the nodes of a large tree are copied again and again. */
const YOUNG_MB = 384;
/** Megabytes of it that a thread begins with: growing to them costs a quarter of the time of a first large script. */
const FIRST_SEMI_SPACE_MB = 128;
const MAX_THREADS = 4;
/** A script that takes longer is left alone. */
const MAX_MS = 120_000;

/** A script as a thread gives it back. */
export interface Rewritten {
  readonly code: string;
  readonly map?: string;
}

/** Whom a job asks and tells while it is done. */
export interface JobEvents {
  /** Gives the first of so many ids. */
  readonly idsFor: (idCount: number) => number;
  readonly onStage?: (stage: RewritingStage) => void;
}

interface Waiting {
  readonly job: Job;
  readonly events: JobEvents;
  readonly resolve: (rewritten: Rewritten) => void;
  readonly reject: (error: Error) => void;
}

/** One thread, with what it was asked for and has not given yet. */
class Thread {
  readonly waiting = new Map<number, Waiting>();
  readonly #worker = new Worker(builtPath('rewriting'), {
    // Modules can be compiled by hand only so, which is by far the quickest way to see whether one is whole.
    execArgv: ['--experimental-vm-modules', '--no-warnings'],
    resourceLimits: { stackSizeMb: STACK_MB, maxYoungGenerationSizeMb: YOUNG_MB },
  });

  constructor(private readonly ended: (thread: Thread) => void) {
    this.#worker.unref();
    this.#worker.on('message', (message: FromThread) => this.#take(message));
    this.#worker.on('error', (error) => this.fail(error.message));
    this.#worker.on('exit', () => this.fail('its thread ended'));
  }

  ask(number: number, waiting: Waiting): void {
    this.waiting.set(number, waiting);
    this.#post({ type: 'job', number, job: waiting.job });
  }

  /** Ends the thread; what it still owes cannot be rewritten. */
  fail(problem: string): void {
    this.ended(this);
    for (const { reject } of this.waiting.values()) reject(new UnrewritableError(problem));
    this.waiting.clear();
    void this.#worker.terminate();
  }

  #post(message: ToThread): void {
    this.#worker.postMessage(message);
  }

  #take(message: FromThread): void {
    const { number } = message;
    const asked = this.waiting.get(number);
    if (asked === undefined) return;
    if (message.type === 'wants-ids') {
      this.#post({ type: 'ids', number, firstId: asked.events.idsFor(message.idCount) });
      return;
    }
    if (message.type === 'stage') {
      asked.events.onStage?.(message.stage);
      return;
    }
    this.waiting.delete(number);
    if (message.type === 'refused') asked.reject(new UnrewritableError(message.problem));
    else asked.resolve(message.map === undefined ? { code: message.code } : message);
  }
}

/** Threads that rewrite scripts, begun when they are first needed. */
export class RewritingPool {
  readonly #threads: Thread[] = [];
  #lastNumber = 0;

  constructor(private readonly size = Math.min(MAX_THREADS, availableParallelism())) {}

  /**
   * Has a thread do a job.
   * @returns a promise that is rejected with an UnrewritableError where it cannot be done
   */
  run(job: Job, events: JobEvents = { idsFor: () => 0 }): Promise<Rewritten> {
    const number = ++this.#lastNumber;
    return new Promise<Rewritten>((resolve, reject) => {
      const thread = this.#idlest();
      const timer = setTimeout(() => thread.fail(`it took longer than ${MAX_MS / 1000} s`), MAX_MS);
      timer.unref();
      const settled =
        <Value>(then: (value: Value) => void) =>
        (value: Value) => {
          clearTimeout(timer);
          then(value);
        };
      thread.ask(number, { job, events, resolve: settled(resolve), reject: settled(reject) });
    });
  }

  /** Begins a first thread, so that the first script need not wait for one. */
  getReady(): void {
    this.#idlest();
  }

  close(): void {
    for (const thread of [...this.#threads]) thread.fail('the server ends');
  }

  #idlest(): Thread {
    const idlest = this.#threads.reduce<Thread | undefined>(
      (a, b) => (a !== undefined && a.waiting.size <= b.waiting.size ? a : b),
      undefined,
    );
    if (idlest !== undefined && (idlest.waiting.size === 0 || this.#threads.length >= this.size))
      return idlest;
    setFlagsFromString(`--min-semi-space-size=${FIRST_SEMI_SPACE_MB}`);
    const thread = new Thread((ended) => {
      const at = this.#threads.indexOf(ended);
      if (at >= 0) this.#threads.splice(at, 1);
    });
    this.#threads.push(thread);
    return thread;
  }
}
