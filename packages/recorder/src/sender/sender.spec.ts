import {
  CLOSE_WRONG_SECRET,
  PROTOCOL_VERSION,
  readBatch,
  type Command,
  type Hello,
  type Target,
} from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Sender } from './sender';
import { FakeSocket } from './testing/fake-socket';

const TARGET: Target = {
  id: 'desk',
  title: 'Boarding desk',
  url: 'http://localhost:4781/',
  engine: 'Blink 156',
  device: 'computer',
  available: [],
  missing: [],
  visible: true,
  recording: null,
};
const last = () => FakeSocket.all.at(-1)!;
const batches = () =>
  last()
    .sent.filter((text) => text.startsWith('{"type":"rows"'))
    .map((text) => readBatch(text));

let commands: Command[];
let sender: Sender;

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.stubGlobal('navigator', { userAgent: 'Chromium/156.0' });
  FakeSocket.all.length = 0;
  commands = [];
  sender = new Sender((message) => {
    if (message.type === 'command') commands.push(message.command);
  });
  sender.take({
    type: 'target',
    target: { ...TARGET, isSmallAndTouched: false, loadedFrames: [], loadedFiles: [] },
  });
  sender.take({ type: 'connect', scriptUrl: 'http://desk/recorder.js', secret: 'old' });
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const take = (sequence: number) =>
  sender.take({
    type: 'batch',
    recordingId: 'friday',
    sequence,
    page: 0,
    rows: [{ kind: 'pause', startMs: sequence, durationMs: 1 }],
    last: false,
  });

describe('the sender', () => {
  it('introduces the page and shows the secret', () => {
    last().open();
    expect(last().protocols).toEqual(['nettle-patch', 'old']);
    const missing = ['longtask', 'long-animation-frame', 'js-self-profiling', 'memory', 'layout-shift'];
    expect(JSON.parse(last().sent[0]!)).toEqual({
      type: 'hello',
      protocol: PROTOCOL_VERSION,
      target: { ...TARGET, missing, foreign: { frames: [], origins: [] } },
    });
  });

  it('names what the page lacks once, be it tried or of other engines', () => {
    last().open();
    const page = { ...TARGET, available: ['longtask'], missing: ['event', 'memory'] };
    sender.take({
      type: 'target',
      target: { ...page, isSmallAndTouched: false, loadedFrames: [], loadedFiles: [] },
    });
    const { target } = JSON.parse(last().sent.at(-1)!) as Hello;
    expect(target.missing).toEqual([
      'event',
      'memory',
      'long-animation-frame',
      'js-self-profiling',
      'layout-shift',
    ]);
  });

  it('holds batches until somebody says they are safe, and sends the others again on a new connection', async () => {
    last().open();
    for (const sequence of [0, 1, 2]) take(sequence);
    expect(batches().map(({ batch }) => batch.sequence)).toEqual([0, 1, 2]);
    last().hear({ type: 'acknowledge', targetId: 'desk', recordingId: 'friday', sequence: 1 });
    last().end(1006);
    take(3);
    await vi.advanceTimersByTimeAsync(1100);
    expect(FakeSocket.all).toHaveLength(2);
    last().open();
    expect(batches().map(({ batch }) => batch.sequence)).toEqual([2, 3]);
    expect(batches()[0]!.lines).toBe('{"kind":"pause","startMs":2,"durationMs":1}\n');
  });

  it('sends again what is not safe when the tool takes a recording up anew', () => {
    last().open();
    take(0);
    last().hear({ type: 'follow', targetId: 'desk', recordingId: 'friday' });
    expect(batches().map(({ batch }) => batch.sequence)).toEqual([0, 0]);
    expect(commands).toEqual([]);
  });

  it('hands commands to the page', () => {
    last().open();
    last().hear({ type: 'start', targetId: 'desk', recordingId: 'friday' });
    expect(commands.map(({ type }) => type)).toEqual(['start']);
  });

  it('sends what waits by itself where a connection is cut off, once, and not while the server stays away', async () => {
    const post = vi.fn((_url: URL, _init: { body: string }) => Promise.resolve(new Response()));
    vi.stubGlobal('fetch', post);
    take(0);
    last().end(1006);
    await vi.advanceTimersByTimeAsync(1000);
    expect(post).not.toHaveBeenCalled();
    last().open();
    take(1);
    last().end(1006);
    take(2);
    const posted = () => post.mock.calls.map(([, { body }]) => readBatch(body).batch.sequence);
    expect(posted()).toEqual([0, 1, 2]);
    expect(post.mock.calls[0]![0].href).toBe('http://desk/__nettle-patch/rows?secret=old');
    for (let again = 0; again < 3; again++) {
      await vi.advanceTimersByTimeAsync(1000);
      last().end(1006);
    }
    expect(posted()).toEqual([0, 1, 2]);
  });

  describe('when the page is left', () => {
    const leave = (sequence: number) =>
      sender.take({
        type: 'batch',
        recordingId: 'friday',
        sequence,
        page: 0,
        rows: [{ kind: 'state', thread: 0, startMs: 3, type: 'leave', value: '' }],
        last: false,
      });
    /** Something the sender adds of its own, as what it is given cannot be read. */
    const add = () =>
      sender.take({
        type: 'trace',
        recordingId: 'friday',
        thread: 0,
        originMs: 0,
        intervalMs: 10,
        trace: null!,
      });
    const sent = () =>
      batches().map(({ batch, lines }) => [batch.sequence, lines.match(/leave|failed|pause/g)]);

    it('sends what the page has sent itself by the same number, and behind it what it still has', () => {
      last().open();
      take(0);
      add();
      leave(1);
      expect(sent()).toEqual([
        [0, ['pause']],
        [1, ['leave', 'failed']],
      ]);
    });

    it('sends nothing more by itself, which would have the numbers of the next page', () => {
      vi.setSystemTime(0);
      last().open();
      sender.take({ type: 'tick', timeOrigin: 0, recordingId: 'friday', originMs: 0, atMs: 0, watch: false });
      take(0);
      add();
      vi.advanceTimersByTime(1000);
      sender.watch();
      expect(sent()).toHaveLength(2);
      leave(1);
      add();
      vi.advanceTimersByTime(1000);
      sender.watch();
      expect(sent()).toEqual([
        [0, ['pause']],
        [1, ['failed']],
        [2, ['leave']],
      ]);
    });
  });

  it('asks for the secret of a server that was started anew', async () => {
    const fetchSecret = vi.fn(async () => new Response('new'));
    vi.stubGlobal('fetch', fetchSecret);
    last().end(CLOSE_WRONG_SECRET);
    await vi.advanceTimersByTimeAsync(1100);
    expect(fetchSecret).toHaveBeenCalledWith(new URL('http://desk/__nettle-patch/join'), {
      cache: 'no-store',
    });
    expect(last().protocols).toEqual(['nettle-patch', 'new']);
  });

  it('goes on trying while the server is away', async () => {
    for (let tries = 1; tries <= 3; tries++) {
      expect(FakeSocket.all).toHaveLength(tries);
      last().end(1006);
      await vi.advanceTimersByTimeAsync(1100);
    }
  });
});
