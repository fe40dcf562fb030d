import { describe, expect, it } from 'vitest';
import { fileKindOf } from './file-kind';

describe('what a file is', () => {
  it('is told by what it holds', () => {
    expect(fileKindOf('{"steps":[{"do":"click","on":"#board-all"}]}')).toBe('steps');
    expect(fileKindOf(' \n{"steps":[]}')).toBe('steps');
    expect(fileKindOf('{"responses":[{"label":"*","ms":200}],"longTaskMs":500}')).toBe('budget');
  });

  it('is for those who read recordings where it is anything else', () => {
    for (const text of [
      '',
      '[]',
      '{}',
      'onBoardAll;stow 12',
      '{"kind":"header","steps":[]}',
      '{"kind":"header"}\n{"kind":"task"}',
      '{"log":{"entries":[]}}',
      '{"steps":[',
    ]) {
      expect(fileKindOf(text), text).toBe('recording');
    }
  });
});
