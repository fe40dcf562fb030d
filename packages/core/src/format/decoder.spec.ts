import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RecordingBuilder } from '../recording/builder';
import { readRecording } from '../recording/read';
import type { Recording } from '../recording/recording';
import { arbitraryRecording, arbitraryRows, deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { RecordingDecoder } from './decoder';
import { encodeRecording } from '../recording/encoder';
import { RefusedRecordingError } from './errors';
import type { Row } from './rows';

const encoder = new TextEncoder();
const bytesOf = (lines: Iterable<string>) => encoder.encode([...lines].map((line) => `${line}\n`).join(''));
const linesOf = (recording: Recording) => [...encodeRecording(recording)];

const SMALL: Row[] = [
  { kind: 'thread', id: 0, name: 'main thread', type: 'main' },
  { kind: 'task', thread: 0, startMs: 10, durationMs: 90, source: 'longtask' },
  { kind: 'end', startMs: 200, reason: 'stopped' },
];

describe('a recording written and read', () => {
  it('is the same recording, whatever it holds', () => {
    fc.assert(
      fc.property(arbitraryRecording, (recording) => {
        const { recording: read, notices } = readRecording([bytesOf(encodeRecording(recording))]);
        expect(notices).toEqual([]);
        expect(linesOf(read)).toEqual(linesOf(recording));
      }),
    );
  });

  it('is the same recording in whatever pieces it comes', () => {
    fc.assert(
      fc.property(arbitraryRecording, fc.integer({ min: 1, max: 200 }), (recording, size) => {
        const bytes = bytesOf(encodeRecording(recording));
        const pieces = Array.from({ length: Math.ceil(bytes.length / size) }, (_, index) =>
          bytes.slice(index * size, (index + 1) * size),
        );
        expect(linesOf(readRecording(pieces).recording)).toEqual(linesOf(recording));
      }),
      { numRuns: 30 },
    );
  });

  it('is the same built row by row as read as a whole', () => {
    fc.assert(
      fc.property(arbitraryRows, (rows) => {
        const live = new RecordingBuilder();
        live.header(deskHeader());
        rows.forEach((row, index) => {
          live.row(row);
          if (index % 7 === 0) live.build();
        });
        expect(linesOf(live.build())).toEqual(linesOf(recordingOf(rows)));
      }),
    );
  });

  it('keeps kinds and fields it does not know', () => {
    const future = '{"kind":"weather","wind":7}';
    const lines = [
      JSON.stringify(deskHeader()),
      future,
      '{"kind":"task","thread":0,"startMs":1,"durationMs":60,"source":"longtask","swell":2}',
      '{"kind":"end","startMs":99,"reason":"stopped"}',
    ];
    const { recording, notices } = readRecording([bytesOf(lines)]);
    expect(notices).toEqual([]);
    const written = linesOf(recording);
    expect(written).toContain(future);
    expect(written.find((line) => line.includes('"task"'))).toContain('"swell":2');
  });
});

describe('a recording cut off', () => {
  it('opens up to any line end, and says that it was cut', () => {
    fc.assert(
      fc.property(arbitraryRecording, fc.double({ min: 0, max: 1, noNaN: true }), (recording, share) => {
        const lines = linesOf(recording);
        const kept = lines.slice(0, 1 + Math.floor(share * (lines.length - 3)));
        const { notices } = readRecording([bytesOf(kept)]);
        expect(notices.map(({ code }) => code)).toContain('cut-off');
      }),
    );
  });

  it('opens up to the line it was cut in, and names that line', () => {
    const bytes = bytesOf(linesOf(recordingOf(SMALL)));
    const { recording, notices } = readRecording([bytes.slice(0, bytes.length - 70)]);
    expect(recording.events.task.length).toBe(1);
    expect(notices).toHaveLength(1);
    expect(notices[0]).toMatchObject({ code: 'cut-off' });
  });
});

describe('a damaged recording', () => {
  const arbitraryDamage = fc.record({
    at: fc.double({ min: 0, max: 0.999999, noNaN: true }),
    byte: fc.integer({ min: 0, max: 255 }),
  });

  it('is refused with a reason or read with the loss stated, for any changed byte', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryDamage, (recording, { at, byte }) => {
        const bytes = bytesOf(encodeRecording(recording));
        const place = Math.floor(at * bytes.length);
        if (bytes[place] === byte) return;
        bytes[place] = byte;
        try {
          expect(readRecording([bytes]).notices.length).toBeGreaterThan(0);
        } catch (error) {
          expect(error).toBeInstanceOf(RefusedRecordingError);
        }
      }),
      { numRuns: 500 },
    );
  });

  it('names line, field, what was expected and what came', () => {
    const lines = [
      JSON.stringify(deskHeader()),
      '{"kind":"task","thread":0,"startMs":1,"durationMs":-5,"source":"longtask"}',
      '{"kind":"end","startMs":9,"reason":"stopped"}',
    ];
    const { notices } = readRecording([bytesOf(lines)]);
    expect(notices).toEqual([
      {
        code: 'bad-line',
        line: 2,
        detail: 'in a "task" row, "durationMs" must be a number of milliseconds, zero or more, got -5',
      },
    ]);
  });

  it('passes over what refers to something that is not there', () => {
    const builder = new RecordingBuilder();
    expect(builder.row({ kind: 'stack', id: 0, function: 3 })).toBe('function 3 is unknown');
    builder.row({ kind: 'function', id: 3, name: 'trim' });
    expect(builder.row({ kind: 'stack', id: 1, function: 3, parent: 1 })).toBe('parent 1 is unknown');
    expect(
      builder.row({ kind: 'samples', thread: 0, startMs: 0, intervalMs: 10, count: 1, data: 'AAg=' }),
    ).toBe('stack 7 is unknown');
  });

  it('sums up many notices of a kind', () => {
    const bad = Array.from({ length: 50 }, () => 'no JSON');
    const { notices } = readRecording([
      bytesOf([JSON.stringify(deskHeader()), ...bad, '{"kind":"end","startMs":9,"reason":"stopped"}']),
    ]);
    expect(notices).toHaveLength(6);
    expect(notices.at(-1)!.detail).toBe('45 more of this kind');
  });
});

describe('input that is no recording', () => {
  const refusal = (text: string) => {
    const decoder = new RecordingDecoder(new RecordingBuilder());
    try {
      decoder.push(encoder.encode(text));
      decoder.finish();
    } catch (error) {
      return (error as RefusedRecordingError).code;
    }
    return undefined;
  };

  it('is refused with the reason', () => {
    expect(refusal('')).toBe('empty');
    expect(refusal('a letter from the harbour master\n')).toBe('not-a-recording');
    expect(refusal('{"kind":"task"}\n')).toBe('not-a-recording');
    expect(refusal(`${JSON.stringify({ ...deskHeader(), version: '2.0' })}\n`)).toBe('newer-version');
    expect(refusal(`${JSON.stringify({ ...deskHeader(), startedAt: 'Friday' })}\n`)).toBe('not-a-recording');
  });
});
