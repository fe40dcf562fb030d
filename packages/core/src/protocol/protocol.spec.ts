import { describe, expect, it } from 'vitest';
import { readCommand, writeBatch } from './frames';
import {
  ProtocolError,
  parseCommand,
  parseServerMessage,
  parseTargetMessage,
  readBatch,
  type Batch,
  type Target,
} from './protocol';

const batch: Batch = { type: 'rows', targetId: 'quay', recordingId: 'friday', sequence: 3, last: false };
const ROWS = '{"kind":"task"}\n{"kind":"end"}\n';
const about = { targetId: 'quay', recordingId: 'friday' };
const target: Target = {
  id: 'quay',
  title: 'Boarding desk',
  url: 'http://localhost:4790/',
  engine: 'Blink 156',
  device: 'computer',
  available: [],
  missing: [],
  visible: true,
  recording: null,
};

describe('a frame of rows', () => {
  it('is known by its envelope, in whatever order and with whatever spaces that is written', () => {
    const envelope =
      '{ "sequence" : 3, "last": false, "recordingId":"friday", "targetId":"quay", "type" : "rows" }';
    for (const frame of [writeBatch(batch, ROWS), `${envelope}\n${ROWS}`]) {
      expect(parseTargetMessage(frame)).toEqual({ type: 'rows', batch, lines: ROWS });
      expect(parseServerMessage(frame)).toEqual({ type: 'rows', batch, lines: ROWS });
      expect(readBatch(frame)).toEqual({ type: 'rows', batch, lines: ROWS });
    }
  });

  it('is refused with words where it is none', () => {
    expect(() => readBatch('{"type":"rows"}')).toThrow(ProtocolError);
    expect(() => readBatch(JSON.stringify(batch))).toThrow('no line end');
    expect(() => readBatch(`${JSON.stringify({ ...batch, sequence: -1 })}\n`)).toThrow('sequence');
    expect(() => readBatch(writeBatch({ ...batch, type: 'hello' } as never, ROWS))).toThrow('type');
  });
});

describe('a hello', () => {
  it('may tell the version of the protocol, may tell none, and may stand on several lines', () => {
    const hello = { type: 'hello', target };
    expect(parseTargetMessage(JSON.stringify(hello))).toEqual(hello);
    expect(parseTargetMessage(JSON.stringify({ ...hello, protocol: 1 }, null, 2))).toMatchObject({
      protocol: 1,
    });
  });

  it('of a later version is refused, and says what to do', () => {
    const later = JSON.stringify({ type: 'hello', protocol: 2, target: 'in another shape' });
    expect(() => parseTargetMessage(later)).toThrow(
      'it speaks version 2 of the protocol, and this program versions up to 1: use a newer Nettle Patch',
    );
  });

  it('is refused with words where it is none', () => {
    for (const text of ['{"type":"hello"}', '{"type":"ahoy"}', 'ahoy', 'null', '7'])
      expect(() => parseTargetMessage(text), text).toThrow(ProtocolError);
  });
});

describe('a command', () => {
  it('has what its type needs', () => {
    const acknowledge = { type: 'acknowledge', ...about, sequence: 4 };
    expect(parseCommand(JSON.stringify(acknowledge))).toEqual(acknowledge);
    expect(() => parseCommand(JSON.stringify({ ...acknowledge, sequence: undefined }))).toThrow('sequence');
    expect(() => parseCommand(JSON.stringify({ type: 'note', ...about }))).toThrow('text');
    expect(() => parseCommand(JSON.stringify({ type: 'sink', ...about }))).toThrow(
      'type must be one of start,',
    );
    expect(() => parseCommand(JSON.stringify({ type: 'start', ...about, targetId: '' }))).toThrow('targetId');
    expect(() => parseCommand('{"type":"toString"}')).toThrow(ProtocolError);
  });

  it('that is none is passed over by a page', () => {
    expect(readCommand(JSON.stringify({ type: 'stop', ...about }))).toEqual({ type: 'stop', ...about });
    for (const text of ['null', '7', '{}', '{"type":"stop"}']) expect(readCommand(text)).toBeUndefined();
  });
});

describe('what the server says', () => {
  it('is a list of targets, or that one left', () => {
    const targets = { type: 'targets', targets: [{ ...target, visitor: null }], apps: [] };
    expect(parseServerMessage(JSON.stringify(targets))).toEqual(targets);
    const left = { type: 'target-left', targetId: 'quay', recordingId: null };
    expect(parseServerMessage(JSON.stringify(left))).toEqual(left);
    expect(() => parseServerMessage('{"type":"targets"}')).toThrow(ProtocolError);
  });
});
