import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RefusedRecordingError } from '../format/errors';
import { linesOfOpenFormat } from './open-formats';

/** Why a text is refused; "read" where it is not. */
function refusal(text: string): string {
  try {
    return [...linesOfOpenFormat(text, { name: 'quay', writtenMs: 0 })].length > 0 ? 'read' : 'nothing';
  } catch (error) {
    expect(error).toBeInstanceOf(RefusedRecordingError);
    return (error as RefusedRecordingError).detail;
  }
}

describe('what is of no known format', () => {
  it.each([
    ['{"a": [1, 2', 'it begins as JSON but is none'],
    ['{"a": 1}', 'neither a recording, nor a list of performance entries'],
    ['[1, 2]', 'neither a recording'],
    ['Departures today\nNine sailings', 'neither a recording'],
    ['   ', 'there is no line in it'],
    ['main;stow 3\n'.repeat(3000) + 'main;stow', 'line 3001 is no folded stack'],
  ])('is refused in words: %s', (text, words) => {
    expect(refusal(text)).toContain(words);
  });

  it('never does anything but refuse or read', () => {
    fc.assert(
      fc.property(fc.json(), (text) => {
        expect(typeof refusal(text)).toBe('string');
      }),
    );
  });
});
