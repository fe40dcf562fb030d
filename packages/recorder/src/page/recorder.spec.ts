import type { Command, Row } from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Capture } from './capture/capture';
import { armNextLoad, takeArmedRecording } from './next-load';
import { Recorder, type OutgoingBatch } from './recorder';
import type { RecordingSession } from './session';

vi.mock('./natives', async (actual) => {
  const { nativesOfNow } = await import('./testing/natives-of-now');
  return nativesOfNow(await actual());
});

/** A capture that notes what is done to it and emits a mark whenever it is asked to collect. */
function fakeCapture(name: string, available = true) {
  const calls: string[] = [];
  let session: RecordingSession | undefined;
  const capture: Capture = {
    name,
    available,
    start(into) {
      session = into;
      calls.push('start');
    },
    collect() {
      const startMs = session!.time(performance.now());
      session!.emit({ kind: 'span', thread: 0, startMs, durationMs: 0, type: 'mark', name });
    },
    stop() {
      calls.push('stop');
    },
  };
  return { capture, calls };
}

let sent: OutgoingBatch[];
const onChange = vi.fn<() => void>();

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'setInterval', 'clearInterval', 'performance'] });
  vi.stubGlobal('document', {
    title: 'Boarding desk',
    documentElement: { style: {} },
    visibilityState: 'visible',
    querySelectorAll: () => [],
  });
  vi.stubGlobal('location', { href: 'http://localhost:4781/board?token=1' });
  vi.stubGlobal('navigator', { userAgent: 'Chromium/156.0', maxTouchPoints: 0 });
  sent = [];
  onChange.mockReset();
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A tab's storage, in a page that is no frame unless `top` is said to be another. @returns what is in it */
function stubStorage(): Map<string, string> {
  const kept = new Map<string, string>();
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  });
  vi.stubGlobal('self', globalThis);
  return kept;
}

const command = (type: 'start' | 'pause' | 'go-on' | 'stop', recordingId = 'friday'): Command => ({
  type,
  targetId: 'desk',
  recordingId,
});
const newRecorder = (...captures: Capture[]) => new Recorder(captures, (batch) => sent.push(batch), onChange);
const rows = () => sent.flatMap((batch) => batch.rows);
const ofKind = (kind: string) => rows().filter((row): row is Row => row.kind === kind);

describe('a recorder', () => {
  it('begins with a header that names what there is and what is missing, without the query of the address', () => {
    const [there, missing] = [fakeCapture('event'), fakeCapture('longtask', false)];
    newRecorder(there.capture, missing.capture).obey(command('start'));
    expect(rows()[0]).toMatchObject({
      kind: 'header',
      id: 'friday',
      available: ['event'],
      missing: ['longtask'],
    });
    expect(JSON.stringify(rows()[0])).not.toContain('token');
    expect([there.calls, missing.calls]).toEqual([['start'], []]);
  });

  it('hands out what was collected ten times a second, in numbered batches', async () => {
    const recorder = newRecorder(fakeCapture('event').capture);
    recorder.obey(command('start'));
    await vi.advanceTimersByTimeAsync(350);
    expect(sent.map(({ sequence }) => sequence)).toEqual([0, 1, 2, 3]);
    expect(ofKind('span')).toHaveLength(3);
    expect(recorder.state).toMatchObject({ id: 'friday', state: 'recording' });
  });

  it('collects nothing while paused, and keeps the pause as a row', async () => {
    const { capture, calls } = fakeCapture('event');
    const recorder = newRecorder(capture);
    recorder.obey(command('start'));
    await vi.advanceTimersByTimeAsync(200);
    recorder.obey(command('pause'));
    recorder.obey(command('pause'));
    await vi.advanceTimersByTimeAsync(100);
    const before = rows().length;
    await vi.advanceTimersByTimeAsync(3400);
    expect(rows()).toHaveLength(before);
    recorder.obey(command('go-on'));
    await vi.advanceTimersByTimeAsync(100);
    expect(ofKind('pause')).toMatchObject([{ startMs: 200, durationMs: 3500 }]);
    await vi.advanceTimersByTimeAsync(1000);
    expect(ofKind('cost')).toMatchObject([{ startMs: 0, durationMs: 200 }, { startMs: 3700 }]);
    expect(calls).toEqual(['start', 'stop', 'start']);
  });

  it('reaches back to the beginning of the load once, and not after a pause', async () => {
    const reachesBack: boolean[] = [];
    const { capture } = fakeCapture('event');
    const start: Capture['start'] = (session) => {
      reachesBack.push(session.startUp);
      capture.start(session);
    };
    const recorder = newRecorder({ ...capture, start });
    recorder.start(['friday'], 3);
    await vi.advanceTimersByTimeAsync(200);
    recorder.obey(command('pause'));
    await vi.advanceTimersByTimeAsync(1000);
    recorder.obey(command('go-on'));
    expect(reachesBack).toEqual([true, false]);
  });

  it('waits for the last entries when stopped, then ends with the time it was told to', async () => {
    const recorder = newRecorder(fakeCapture('event').capture);
    recorder.obey(command('start'));
    await vi.advanceTimersByTimeAsync(300);
    recorder.obey(command('stop'));
    expect(sent.some(({ last }) => last)).toBe(false);
    await vi.advanceTimersByTimeAsync(400);
    expect(sent.at(-1)!.last).toBe(true);
    expect(ofKind('end')).toMatchObject([{ startMs: 300, reason: 'stopped' }]);
    expect(recorder.state).toBeNull();
    const count = sent.length;
    await vi.advanceTimersByTimeAsync(1000);
    expect(sent).toHaveLength(count);
  });

  it('tells its own cost each second', async () => {
    newRecorder(fakeCapture('event').capture).obey(command('start'));
    await vi.advanceTimersByTimeAsync(2200);
    expect(ofKind('cost').length).toBeGreaterThanOrEqual(2);
  });

  it('hands out what is there when the page leaves, only once, and has the next page of the tab go on', async () => {
    stubStorage();
    vi.stubGlobal('top', globalThis);
    const recorder = newRecorder(fakeCapture('event').capture);
    recorder.obey(command('start'));
    await vi.advanceTimersByTimeAsync(250);
    const batch = recorder.leave()!;
    expect(batch.last).toBe(false);
    expect(batch.rows.filter(({ kind }) => kind === 'state')).toMatchObject([
      { startMs: 250, type: 'leave' },
    ]);
    expect(batch.rows.some(({ kind }) => kind === 'end')).toBe(false);
    expect(recorder.leave()).toBeUndefined();

    const armed = takeArmedRecording()!;
    expect(takeArmedRecording()).toBeUndefined();
    sent = [];
    await vi.advanceTimersByTimeAsync(100);
    const next = newRecorder(fakeCapture('event').capture);
    next.start(armed);
    await vi.advanceTimersByTimeAsync(100);
    expect(sent.map(({ sequence, page }) => [sequence, page])).toEqual([
      [batch.sequence + 1, 1],
      [batch.sequence + 2, 1],
    ]);
    expect(ofKind('span')).toMatchObject([{ startMs: 450 }]);
    next.obey(command('stop'));
    await vi.advanceTimersByTimeAsync(300);
    expect(ofKind('end')).toMatchObject([{ startMs: 450, reason: 'stopped' }]);
  });

  it('does not go on in a page that comes much later, nor in a frame', async () => {
    const kept = stubStorage();
    vi.stubGlobal('top', {});
    armNextLoad('friday', Date.now());
    expect(takeArmedRecording()).toBeUndefined();
    expect(kept.size).toBe(1);
    vi.stubGlobal('top', globalThis);
    armNextLoad('friday', Date.now() - 30_000);
    expect(takeArmedRecording()).toBeUndefined();
    armNextLoad('friday');
    expect(takeArmedRecording()).toEqual(['friday']);
  });

  it('ignores commands about another recording, and a second start', () => {
    const { capture, calls } = fakeCapture('event');
    const recorder = newRecorder(capture);
    recorder.obey(command('start'));
    recorder.obey(command('start', 'saturday'));
    recorder.obey(command('pause', 'saturday'));
    expect(calls).toEqual(['start']);
    expect(recorder.state).toMatchObject({ id: 'friday', state: 'recording' });
  });
});
