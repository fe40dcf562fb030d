import { array, number, object, type ValidationError } from 'yup';
import { expect, it } from 'vitest';
import { validationWords } from './validation-words';

const schema = object({ budget: number().max(200), stings: array(number().required()) }).noUnknown();

function said(value: unknown, abortEarly = true): string {
  try {
    schema.validateSync(value, { strict: true, abortEarly });
    return '';
  } catch (error) {
    return validationWords(error as ValidationError);
  }
}

it.each([
  [[{ budget: 5 }], 'it must be an object, and is a list'],
  ['private', 'it must be an object, and is a text'],
  [{ budget: 'private' }, 'budget must be a number, and is a text'],
  [{ budget: true }, 'budget must be a number, and is true or false'],
  [{ stings: { private: 1 } }, 'stings must be a list, and is an object'],
  [{ stings: [1, [2]] }, 'stings[1] must be a number, and is a list'],
  [{ budget: 300 }, 'budget must be less than or equal to 200'],
])('says of %j: %s', (value, words) => {
  expect(said(value)).toBe(words);
});

it('says all that does not fit, where all was asked for', () => {
  expect(said({ budget: 300, stings: 5 }, false)).toBe(
    'budget must be less than or equal to 200; stings must be a list, and is a number',
  );
});
