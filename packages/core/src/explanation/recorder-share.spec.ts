import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { findStings } from '../detectors/index';
import { recordingOf } from '../testing/arbitrary-recording';
import { anatomyOf } from './anatomy';

const handler = (startMs: number, durationMs: number, id: number): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'user-callback',
  invoker: 'BUTTON.onclick',
  function: id,
});

describe('what the recorder took of a sting', () => {
  it('is told by itself, and is nothing that mending the app would save', () => {
    const recording = recordingOf([
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'source', id: 1, url: 'http://localhost:4781/__nettle-patch/recorder.js' },
      { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
      { kind: 'function', id: 1, name: 'flush', source: 1 },
      {
        kind: 'input',
        thread: 0,
        startMs: 1000,
        durationMs: 480,
        type: 'click',
        interaction: 1,
        target: 'button “Board all”',
        processingStartMs: 1010,
        processingEndMs: 1460,
      },
      handler(1010, 120, 0),
      handler(1130, 300, 1),
      { kind: 'task', thread: 0, startMs: 1010, durationMs: 450, source: 'longtask' },
    ]);
    const [sting] = findStings(recording, DEFAULT_THRESHOLDS);
    const { culprits, recorderMs } = anatomyOf(recording, sting!);
    expect(culprits.map(({ functionId, chargedMs }) => [functionId, chargedMs])).toEqual([[0, 120]]);
    expect(recorderMs).toBe(300);
  });
});
