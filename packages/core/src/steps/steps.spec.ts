import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { BadStepsError, readSteps } from './steps';

const read = (...steps: unknown[]) => readSteps(JSON.stringify({ steps }));

describe('a file of steps', () => {
  it('gives the steps in their order, as the documentation shows them', () => {
    const shown = /```json\n([\s\S]*?)```/.exec(
      readFileSync(new URL('../../../../docs/steps.md', import.meta.url), 'utf8'),
    )![1]!;
    expect(readSteps(shown).map((step) => step.do)).toEqual(['wait-for', 'click', 'wait', 'type']);
    expect(read({ do: 'drag', on: '.vehicle', by: { x: 5, y: -3 } })).toEqual([
      { do: 'drag', on: '.vehicle', by: { x: 5, y: -3 } },
    ]);
  });

  it.each([
    [{ do: 'sail', on: '#deck' }, /^step 2: "do" must be one of click, .*; got "sail"$/],
    [{ on: '#deck' }, /^step 2: "do" must be one of .*; it is missing$/],
    [{ do: 'click' }, /^step 2 \(click\): on is a required field$/],
    [{ do: 'click', on: '#deck', at: 3 }, /^step 2 \(click\): .*unspecified.* at$|^step 2 \(click\): .*at/],
    [{ do: 'wait', ms: 'long' }, /^step 2 \(wait\): ms must be a number, and is a text$/],
    [{ do: 'key', key: 'Ahoy' }, /^step 2 \(key\): "key" must be one character or one of .*got "Ahoy"$/],
    [{ do: 'drag', on: '.vehicle', by: { x: 1.5, y: 0 } }, /^step 2 \(drag\): by\.x must be an integer$/],
    [{ do: 'type' }, /^step 2 \(type\): it needs either "text" or "length"$/],
    [{ do: 'type', text: 'ahoy', length: 4 }, /^step 2 \(type\): it needs either "text" or "length"$/],
    [{ do: 'key', key: 'a', with: ['Hyper'] }, /^step 2 \(key\): with\[0\] must be one of/],
    [{ do: 'choose', on: 'select', index: -1 }, /^step 2 \(choose\): index must be greater/],
    [7, /steps\[1\]/],
  ])('names a wrong step with its number: %j', (step, words) => {
    expect(() => read({ do: 'wait', ms: 1 }, step)).toThrow(BadStepsError);
    expect(() => read({ do: 'wait', ms: 1 }, step)).toThrow(words);
  });

  it('is refused with the reason when it is none', () => {
    expect(() => readSteps('ahoy')).toThrow(/is no JSON/);
    expect(() => readSteps('{"steps":[]}')).toThrow(/at least 1/);
    expect(() => readSteps('{}')).toThrow(/steps is a required field/);
    expect(() => readSteps('[{"do":"wait","ms":1}]')).toThrow(
      /^the file of steps: it must be an object with the list "steps": \{"steps": /,
    );
  });
});
