import type { Link, LinkEvents } from './link';

/** Channel on which senders say that they live, to the worker that holds web sockets for them. */
export const HOLDER_CHANNEL = 'nettle-patch holder';
const SIGN_OF_LIFE_MS = 500;
/** As long as nobody has answered, signs come so often. */
const FIRST_SIGNS_MS = 50;
/** Without a sign of life for so long, the other end is given up. Milliseconds. */
export const GIVEN_UP_MS = 4000;

/** A sender's sign of life. */
export interface SignOfLife {
  readonly secret: string;
  /** Name of the channel between the two. */
  readonly channel: string;
}

/** From the holder to a sender. */
export type FromHolder =
  | { readonly type: 'alive' | 'opened' }
  | { readonly type: 'heard'; readonly text: string }
  | { readonly type: 'closed'; readonly code: number };

/** The other end is gone (RFC 6455, section 7.4.1). */
const GONE = 1006;

/** A channel's name that no other has, also where there is no secure context. */
const newName = () => `nettle-patch ${crypto.getRandomValues(new Uint32Array(4)).join('-')}`;

/**
 * A web socket that another worker holds: in one engine (Gecko) a page of which a worker has a web socket does not
 * come back from the cache it is left in (HTML Standard, section 7.4.7, lets each engine decide).
 */
export class HeldLink implements Link {
  readonly #holder = new BroadcastChannel(HOLDER_CHANNEL);
  readonly #channel: BroadcastChannel;
  readonly #sign: SignOfLife;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #heardMs = performance.now();
  #wasHeard = false;
  #hasEnded = false;

  /** @param onAlone is called, before it is told as closed, where no holder has ever answered */
  constructor(
    secret: string,
    private readonly events: LinkEvents,
    private readonly onAlone: () => void,
  ) {
    this.#sign = { secret, channel: newName() };
    this.#channel = new BroadcastChannel(this.#sign.channel);
    this.#channel.addEventListener('message', ({ data }: MessageEvent<FromHolder>) => this.#take(data));
    this.#showLife();
  }

  say(text: string): void {
    if (!this.#hasEnded) this.#channel.postMessage(text);
  }

  #showLife(): void {
    if (performance.now() - this.#heardMs > GIVEN_UP_MS) {
      if (!this.#wasHeard) this.onAlone();
      this.#end(GONE);
      return;
    }
    this.#holder.postMessage(this.#sign);
    this.#timer = setTimeout(() => this.#showLife(), this.#wasHeard ? SIGN_OF_LIFE_MS : FIRST_SIGNS_MS);
  }

  #take(message: FromHolder): void {
    this.#heardMs = performance.now();
    this.#wasHeard = true;
    if (message.type === 'opened') this.events.opened();
    else if (message.type === 'heard') this.events.heard(message.text);
    else if (message.type === 'closed') this.#end(message.code);
  }

  #end(code: number): void {
    this.#hasEnded = true;
    clearTimeout(this.#timer);
    this.#holder.close();
    this.#channel.close();
    this.events.closed(code);
  }
}
