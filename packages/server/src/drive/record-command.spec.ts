import { describe, expect, it } from 'vitest';
import { fileFor } from './record-command';

describe('the file of one browser among several', () => {
  it('has its name before all endings', () => {
    expect(fileFor('recording.nettle.jsonl.gz', 'firefox')).toBe('recording-firefox.nettle.jsonl.gz');
    expect(fileFor('./runs.1/deck', 'webkit')).toBe('./runs.1/deck-webkit');
  });
});
