import { targetSocketUrl } from '../sender/links/link';
import { GIVEN_UP_MS, HOLDER_CHANNEL, type FromHolder, type SignOfLife } from '../sender/links/held-link';
import { SocketLink } from '../sender/links/socket-link';

/** A web socket that is held for a sender, at the server this comes from: nothing a page says leads elsewhere. */
class HeldSocket {
  readonly #channel: BroadcastChannel;
  readonly #link: SocketLink;
  aliveMs = performance.now();

  /** @param onClosed is called when the server has closed it */
  constructor({ channel, secret }: SignOfLife, onClosed: () => void) {
    this.#channel = new BroadcastChannel(channel);
    this.#channel.addEventListener('message', ({ data }: MessageEvent<string>) => this.#link.say(data));
    this.#link = new SocketLink(targetSocketUrl(location.href), secret, {
      opened: () => this.tell({ type: 'opened' }),
      heard: (text) => this.tell({ type: 'heard', text }),
      closed: (code) => {
        this.tell({ type: 'closed', code });
        this.#channel.close();
        onClosed();
      },
    });
  }

  tell(message: FromHolder): void {
    this.#channel.postMessage(message);
  }

  close(): void {
    this.#link.close();
  }
}

/** Holds the web sockets of the senders of all pages of an origin, for as long as each of them shows that it lives. */
export function startHolder(): void {
  const held = new Map<string, HeldSocket>();
  new BroadcastChannel(HOLDER_CHANNEL).addEventListener('message', ({ data }: MessageEvent<SignOfLife>) => {
    const socket = held.get(data.channel);
    if (socket === undefined) held.set(data.channel, new HeldSocket(data, () => held.delete(data.channel)));
    else {
      socket.aliveMs = performance.now();
      socket.tell({ type: 'alive' });
    }
  });
  setInterval(() => {
    for (const socket of held.values()) {
      if (performance.now() - socket.aliveMs > GIVEN_UP_MS) socket.close();
    }
  }, GIVEN_UP_MS / 2);
}
