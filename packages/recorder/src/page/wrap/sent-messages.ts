import { apply, construct } from '../natives';
import { guarded } from './internal';
import { replaceClass, replaceMethod } from './replace';
import type { EntryAbout, ScriptEntryTracker, Scheduled } from './script-entries';
import { cameFrom, lineOf } from './worker-line';

/** Messages of a port that may wait to be taken out. */
const MAX_WAITING = 256;

/** Who sent what a message port got: ports keep the order, so the first sent is the first to come. */
export class SentMessages {
  readonly #partners = new WeakMap<object, object>();
  readonly #waiting = new WeakMap<object, (Scheduled | undefined)[]>();
  readonly #causes = new WeakMap<Event, Scheduled | undefined>();

  /** @param workers what has the function by which a message goes to another thread */
  constructor(
    private readonly entries: ScriptEntryTracker,
    private readonly workers: object | undefined,
  ) {}

  install(): void {
    replaceClass('MessageChannel', (original, args, newTarget) => {
      const channel = construct(original, args, newTarget) as MessageChannel;
      this.#partners.set(channel.port1, channel.port2).set(channel.port2, channel.port1);
      return channel;
    });
    const sent = this.#sent.bind(this);
    replaceMethod(MessagePort.prototype, 'postMessage', (original) => ({
      instead(...args) {
        const value: unknown = apply(original, this, args);
        sent(this as MessagePort);
        return value;
      },
    }));
    const { entries } = this;
    replaceMethod(this.workers, 'postMessage', (original) => ({
      instead(...args) {
        const value: unknown = apply(original, this, args);
        guarded(() => {
          const line = lineOf((this as object | undefined) ?? globalThis);
          if (line) entries.send(line.thread, ++line.sent);
        });
        return value;
      },
    }));
  }

  /** What sent the message that an event at a port, or from another thread, is about. */
  causeOf(target: object, event: Event): Pick<EntryAbout, 'schedule' | 'message'> | undefined {
    const message = cameFrom(event);
    if (message) return { message };
    if (event.type !== 'message' || !this.#waiting.has(target)) return undefined;
    if (!this.#causes.has(event)) this.#causes.set(event, this.#waiting.get(target)!.shift());
    return { schedule: this.#causes.get(event) };
  }

  /** A port that takes nothing out, because it lives elsewhere or nobody listens, is given up. */
  #sent(port: MessagePort): void {
    const partner = this.#partners.get(port);
    if (partner === undefined) return;
    const waiting = this.#waiting.get(partner) ?? [];
    if (waiting.length === 0) this.#waiting.set(partner, waiting);
    waiting.push(this.entries.schedule('message', undefined));
    if (waiting.length <= MAX_WAITING) return;
    this.#partners.delete(port);
    this.#waiting.delete(partner);
  }
}
