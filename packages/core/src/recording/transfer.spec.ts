import fc from 'fast-check';
import { expect, it } from 'vitest';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { encodeRecording } from './encoder';
import { arbitraryRecording } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { fromMessage, toMessage } from './transfer';

it('a recording handed to another thread is the same there', () => {
  fc.assert(
    fc.property(arbitraryRecording, (recording) => {
      const lines = [...encodeRecording(recording)];
      const { message, buffers } = toMessage(recording);
      const received = fromMessage(structuredClone(message, { transfer: buffers }));
      expect([...encodeRecording(received)]).toEqual(lines);
    }),
  );
});

it('a recording is handed over, not copied, and analysed as before', () => {
  const before = functionTable(recorded('board-all-exact'), WIDE_LENS);
  const recording = recorded('board-all-exact');
  const { message, buffers } = toMessage(recording);
  const received = fromMessage(structuredClone(message, { transfer: buffers }));
  expect(functionTable(received, WIDE_LENS)).toEqual(before);
  expect(recording.calls.get(0)!.startsUs.length).toBe(0);
});
