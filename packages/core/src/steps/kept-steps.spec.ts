import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { encodeRecording } from '../recording/encoder';
import { readRecording } from '../recording/read';
import type { Recording } from '../recording/recording';
import { keptSteps, lacksTexts, withoutWords, writeSteps } from './kept-steps';
import { BadStepsError, readSteps, type Step } from './steps';

const HEADER = {
  kind: 'header',
  format: 'nettle-patch',
  version: '1.0',
  id: 'quay',
  startedAt: '2026-11-20T08:00:00.000Z',
  title: 'Quay',
  mode: 'everyday',
  clockStepMs: 0.1,
  refreshMs: 16.7,
  target: { title: 'Quay', url: 'http://localhost/', engine: 'Blink', device: 'computer' },
  available: [],
  missing: [],
};

function recordingOf(header: object, ...rows: object[]): Recording {
  const lines = [{ ...HEADER, ...header }, ...rows].map((row) => `${JSON.stringify(row)}\n`);
  return readRecording([new TextEncoder().encode(lines.join(''))]).recording;
}

const row = (startMs: number, durationMs: number, step: Step) => ({
  kind: 'step',
  startMs,
  durationMs,
  step: JSON.stringify(step),
});
const click: Step = { do: 'click', on: '#board-all' };
const type: Step = { do: 'type', length: 3, everyMs: 200 };

const aStep: fc.Arbitrary<Step> = fc.oneof(
  fc.record({ do: fc.constant('click' as const), on: fc.string({ minLength: 1, maxLength: 20 }) }),
  fc.record({ do: fc.constant('type' as const), text: fc.string({ minLength: 1, maxLength: 20 }) }),
  fc.record({ do: fc.constant('wait' as const), ms: fc.integer({ min: 0, max: 60_000 }) }),
  fc.record({
    do: fc.constant('scroll' as const),
    by: fc.record({ x: fc.integer({ min: -500, max: 500 }), y: fc.integer({ min: -500, max: 500 }) }),
  }),
);

describe('the steps of a recording', () => {
  it('are what was done, in order, with the pauses between and a wait for the last answer', () => {
    const recording = recordingOf({}, row(900, 400, type), row(100, 60, click), row(9000, 0, click));
    expect(keptSteps(recording)).toEqual({
      times: 1,
      steps: [
        click,
        { do: 'wait', ms: 740 },
        type,
        { do: 'wait', ms: 5000 },
        click,
        { do: 'wait', ms: 1000 },
      ],
    });
    expect(lacksTexts(keptSteps(recording)!.steps)).toBe(true);
  });

  it('are those it was made by, where it was made by steps', () => {
    const again = { steps: [click], times: 10 };
    expect(keptSteps(recordingOf({ again }, row(100, 60, type)))).toEqual(again);
  });

  it('are not known where none were kept, and refused where they are none', () => {
    expect(keptSteps(recordingOf({}))).toBeUndefined();
    const bad = { ...row(1, 1, click), step: '{"do":"sail"}' };
    expect(() => keptSteps(recordingOf({}, bad))).toThrow(BadStepsError);
    expect(() => keptSteps(recordingOf({}, { ...bad, step: '],"x":[' }))).toThrow(BadStepsError);
  });

  it('tell no words where they are not to', () => {
    const words: Step = { do: 'type', on: '#name', text: 'Åse', everyMs: 40 };
    const told = withoutWords([click, words]);
    expect(told).toEqual([click, { do: 'type', on: '#name', length: 3, everyMs: 40 }]);
    expect(lacksTexts(told)).toBe(true);
  });

  it('outlast being written, as a file of steps and in a recording', () => {
    fc.assert(
      fc.property(fc.array(aStep, { minLength: 1, maxLength: 12 }), (steps) => {
        expect(readSteps(writeSteps(steps))).toEqual(steps);
        const made = recordingOf({ replay: { steps, times: 2 } });
        const lines = [...encodeRecording(made)].map((line) => `${line}\n`).join('');
        const { recording } = readRecording([new TextEncoder().encode(lines)]);
        expect(keptSteps(recording)).toEqual({ steps, times: 2 });
      }),
    );
  });
});
