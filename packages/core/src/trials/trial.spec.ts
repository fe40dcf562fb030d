import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BadTrialError, isTrialFile, readTrial, trialFrom, trialText, type Trial } from './trial';
import { trialLineOf, trialModule } from './trial-module';
import { trialAnswerFrom, trialQuestionFrom } from './trial-messages';

const TRIAL: Trial = {
  name: 'Two ways to add fares',
  place: 'worker',
  setUp: 'const fares = [3, 4];',
  alternatives: [
    { name: 'as it is', code: 'return fares[0] + fares[1];' },
    { name: 'another', code: 'let sum = 0;\nfor (const fare of fares) sum += fare;\nreturn sum;' },
  ],
};

const code = fc.string({ unit: 'binary', maxLength: 80 });
const name = fc.string({ minLength: 1, maxLength: 20 }).filter((text) => text.trim() === text && text !== '');
const trials = fc.record({
  name,
  place: fc.constantFrom('worker' as const, 'page' as const),
  setUp: code,
  alternatives: fc.array(fc.record({ name, code }), { minLength: 2, maxLength: 5 }),
});

describe('a file of a trial', () => {
  it('reads as it was written, whatever the code is', () => {
    fc.assert(
      fc.property(trials, (trial) => {
        const text = trialText(trial);
        expect(isTrialFile(JSON.parse(text) as object)).toBe(true);
        expect({ ...readTrial(text), app: undefined }).toEqual({ ...trial, app: undefined });
      }),
    );
  });

  it('may give code as one text, and what is usual not at all', () => {
    const { place, setUp, alternatives } = readTrial(
      '{"format":"nettle-patch-trial","version":1,"name":"Fares","alternatives":[{"name":"a","code":"return 1;"},{"name":"b","code":["return","1;"]}]}',
    );
    expect({ place, setUp }).toEqual({ place: 'worker', setUp: '' });
    expect(alternatives[1]!.code).toBe('return\n1;');
  });

  it.each([
    ['{', 'no JSON'],
    ['{"name": "x"}', 'it says no "format"'],
    ['{"name": "x", "format": "quay"}', '"format" must be "nettle-patch-trial"'],
    ['{"format":"nettle-patch-trial","version":2,"name":"x"}', 'version 1'],
    [
      '{"format":"nettle-patch-trial","version":1,"name":"x","alternatives":[{"name":"a","code":"1"}]}',
      'at least 2',
    ],
    [
      '{"format":"nettle-patch-trial","version":1,"name":"x","alternatives":[{"name":"a","code":1},{"name":"b","code":"1"}]}',
      'alternatives[0].code must be a text',
    ],
    [
      '{"format":"nettle-patch-trial","version":1,"name":"x","app":"javascript:alert(1)","alternatives":[{"name":"a","code":"1"},{"name":"b","code":"1"}]}',
      'app must be an address',
    ],
  ])('says what is wrong in %s', (text, words) => {
    expect(() => readTrial(text)).toThrow(BadTrialError);
    expect(() => readTrial(text)).toThrow(words);
  });

  it('takes nothing that it does not know', () => {
    expect(() => trialFrom({ ...TRIAL, secret: 1 })).toThrow(BadTrialError);
  });
});

describe('the module of an alternative', () => {
  it('has lines that lead back to where they stand in the trial', () => {
    const module = trialModule(TRIAL, 1, false);
    const lines = module.split('\n');
    lines.forEach((text, at) => {
      const place = trialLineOf(TRIAL, 1, at + 1);
      if (place === undefined) return;
      const of = place.part === 'setUp' ? TRIAL.setUp : TRIAL.alternatives[place.part]!.code;
      expect(of.split('\n')[place.line - 1]).toBe(text);
    });
    expect(trialLineOf(TRIAL, 1, 4)).toEqual({ part: 1, line: 2 });
    expect(trialLineOf(TRIAL, 1, 2)).toBeUndefined();
    expect(trialLineOf(TRIAL, 1, 99)).toBeUndefined();
  });

  it('survives a set-up that ends with a comment', () => {
    const module = trialModule({ ...TRIAL, setUp: 'const fares = [1, 2]; // at noon' }, 0, true);
    expect(module).toContain('// at noon\n;async function');
  });
});

describe('what is asked of the page of a trial and answered', () => {
  it('is taken only as it must be', () => {
    expect(trialQuestionFrom({ do: 'load', at: 1, limitMs: 5 })).toEqual({ do: 'load', at: 1, limitMs: 5 });
    expect(() => trialQuestionFrom({ do: 'load', at: 9, limitMs: 5 })).toThrow();
    expect(() => trialQuestionFrom({ do: 'format', limitMs: 5 })).toThrow();
    expect(() => trialQuestionFrom({ do: 'begin', place: 'tool', limitMs: 5 })).toThrow();
    expect(trialAnswerFrom({ turns: 4 }).turns).toBe(4);
    expect(() => trialAnswerFrom({ turns: -4 })).toThrow();
    expect(() => trialAnswerFrom({ blocks: [{ ms: 'many' }] })).toThrow();
    expect(() =>
      trialAnswerFrom({ checked: { text: 'x'.repeat(5000), sameAs: 0, isSteady: true, isComparable: true } }),
    ).toThrow();
  });
});
