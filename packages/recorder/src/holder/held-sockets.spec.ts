import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { GIVEN_UP_MS, HeldLink } from '../sender/links/held-link';
import { FakeSocket } from '../sender/testing/fake-socket';
import { startHolder } from './held-sockets';

/** Messages between workers come when the test has waited for them; clocks stand still until they are moved. */
const delivered = async () => {
  for (let turn = 0; turn < 20; turn++) await new Promise((resolve) => setImmediate(resolve));
};
const channels: BroadcastChannel[] = [];
const told: string[] = [];
const newLink = () =>
  new HeldLink(
    'quay',
    {
      opened: () => told.push('opened'),
      heard: (text) => told.push(text),
      closed: (code) => told.push(`closed ${code}`),
    },
    () => told.push('alone'),
  );

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'performance'] });
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.stubGlobal('location', { href: 'http://desk/__nettle-patch/sender.js' });
  vi.stubGlobal(
    'BroadcastChannel',
    class extends BroadcastChannel {
      constructor(name: string) {
        super(name);
        channels.push(this);
      }
    },
  );
  FakeSocket.all.length = 0;
  told.length = 0;
});

afterEach(() => {
  for (const channel of channels.splice(0)) channel.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('keeps a web socket for a page, at the server it comes from, and passes on what is said', async () => {
  startHolder();
  const link = newLink();
  await delivered();
  const [socket] = FakeSocket.all;
  expect([socket!.url, socket!.protocols]).toEqual([
    'ws://desk/__nettle-patch/target',
    ['nettle-patch', 'quay'],
  ]);
  socket!.open();
  socket!.hear({ type: 'pause' });
  link.say('hello');
  await delivered();
  expect([told, socket!.sent]).toEqual([['opened', '{"type":"pause"}'], ['hello']]);
  socket!.end(4403);
  await delivered();
  link.say('more');
  expect(told.at(-1)).toBe('closed 4403');
  expect(FakeSocket.all).toHaveLength(1);
});

it('keeps it while the page shows that it lives, and no longer', async () => {
  startHolder();
  newLink();
  for (let passedMs = 0; passedMs < 2 * GIVEN_UP_MS; passedMs += 100) {
    await delivered();
    vi.advanceTimersByTime(100);
  }
  const [socket] = FakeSocket.all;
  expect(socket!.isClosing).toBe(false);
  expect(told).toEqual([]);
  // A page in the cache says nothing.
  channels.at(-1)!.close();
  channels.at(-2)!.postMessage = () => undefined;
  vi.advanceTimersByTime(2 * GIVEN_UP_MS);
  expect(socket!.isClosing).toBe(true);
});

it('is done without where nobody keeps web sockets', async () => {
  newLink();
  for (let passedMs = 0; passedMs <= GIVEN_UP_MS + 100; passedMs += 50) {
    await delivered();
    vi.advanceTimersByTime(50);
  }
  expect(told).toEqual(['alone', 'closed 1006']);
});
