import { describe, expect, it } from 'vitest';
import { cleanTags } from './tags';

describe('tags', () => {
  it('are trimmed, told once, and none is empty', () => {
    expect(cleanTags([' deck', '', 'deck ', '  ', 'pier 3'])).toEqual(['deck', 'pier 3']);
  });

  it('are not endless', () => {
    const tags = cleanTags(Array.from({ length: 40 }, (_, at) => `${'lane '.repeat(20)}${at}`));
    expect(tags).toEqual(['lane '.repeat(20).slice(0, 40)]);
    expect(cleanTags(Array.from({ length: 40 }, (_, at) => `lane ${at}`))).toHaveLength(12);
  });
});
