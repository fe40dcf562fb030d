import { describe, expect, it } from 'vitest';
import type { LateFramesDetail } from '../detectors/late-frames';
import type { Row } from '../format/rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { end, picture } from '../testing/desk-rows';
import { anatomyOf } from './anatomy';

const HEADER = deskHeader({ available: ['handlers'], refreshMs: 20 });
const script = (startMs: number, durationMs: number): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'event-listener',
  invoker: 'BUTTON.onclick',
});
const tap = (startMs: number, durationMs: number): Row => ({
  kind: 'input',
  thread: 0,
  startMs,
  durationMs,
  type: 'click',
  interaction: 7,
  processingStartMs: startMs + 2,
  processingEndMs: startMs + durationMs - 10,
  target: 'button “Board all”',
});

/** Frames that were missed in the worst sting of what these rows tell. */
function missedIn(...rows: Row[]): readonly number[] {
  const recording = recordingOf([...rows, end(5000)], HEADER);
  return anatomyOf(recording, findStings(recording, DEFAULT_THRESHOLDS)[0]!).missed;
}

describe('frames that were missed', () => {
  it('are those for which the thread was busy, from when it was taken to its picture', () => {
    expect(missedIn(tap(1000, 410), script(1002, 396), picture(1400))).toEqual(
      Array.from({ length: 19 }, (_, at) => 1002 + (at + 1) * 20),
    );
  });

  it('are not those in which pictures came while an answer was waited for', () => {
    const waiting = Array.from({ length: 19 }, (_, at) => picture(1020 + at * 20));
    expect(missedIn(tap(1000, 410), script(1002, 6), ...waiting, script(1385, 10), picture(1400))).toEqual(
      [],
    );
  });

  it('are as many as a run of late frames says', () => {
    const late = Array.from({ length: 6 }, (_, at) => [script(1000 + at * 90, 80), picture(1080 + at * 90)]);
    const recording = recordingOf([...late.flat(), end(5000)], HEADER);
    const run = findStings(recording, DEFAULT_THRESHOLDS).find(({ kind }) => kind === 'late-frames')!;
    const { missed } = run.detail as LateFramesDetail;
    expect(missed).toBe(18);
    expect(anatomyOf(recording, run).missed).toHaveLength(missed);
  });

  it('are told of one stretch where no pictures were told of', () => {
    expect(missedIn(tap(1000, 410))).toHaveLength(20);
    expect(missedIn({ kind: 'task', thread: 0, startMs: 300, durationMs: 101, source: 'longtask' })).toEqual([
      320, 340, 360, 380,
    ]);
  });
});
