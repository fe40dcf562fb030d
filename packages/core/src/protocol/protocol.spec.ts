import { describe, expect, it } from 'vitest';
import { isBatch, writeBatch } from './frames';
import { ProtocolError, parseCommand, parseHello, readBatch, type Batch } from './protocol';

const batch: Batch = { type: 'rows', targetId: 'quay', recordingId: 'friday', sequence: 3, last: false };

describe('the relay protocol', () => {
  it('carries a batch of rows in one frame', () => {
    const frame = writeBatch(batch, '{"kind":"task"}\n{"kind":"end"}\n');
    expect(isBatch(frame)).toBe(true);
    expect(readBatch(frame)).toEqual({ batch, lines: '{"kind":"task"}\n{"kind":"end"}\n' });
  });

  it('refuses what it does not know, with words', () => {
    expect(() => parseCommand('{"type":"sink","targetId":"quay","recordingId":"friday"}')).toThrow(
      ProtocolError,
    );
    expect(() => parseCommand('{"type":"start","targetId":"","recordingId":"friday"}')).toThrow('targetId');
    expect(() => parseHello('{"type":"hello"}')).toThrow('target');
    expect(() => parseHello('ahoy')).toThrow(ProtocolError);
    expect(() => readBatch('{"type":"rows"}')).toThrow('no line end');
    expect(() => readBatch(`${JSON.stringify({ ...batch, sequence: -1 })}\n`)).toThrow('sequence');
  });
});
