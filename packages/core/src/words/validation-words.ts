import type { ValidationError } from 'yup';

const TYPES: Readonly<Record<string, string>> = {
  array: 'a list',
  boolean: 'true or false',
  number: 'a number',
  object: 'an object',
  string: 'a text',
};

/** How a schema says by itself that a value has another type, with all that is in the value. */
const WRONG_TYPE = /must be a `(\w+)` type, but the final value was/;

/**
 * What does not fit a schema, in words, each fault once. Of a value of the wrong type it says the type only, and repeats
 * none of it: what a file holds may be long, or private.
 */
export function validationWords(error: ValidationError): string {
  const each = error.inner.length > 0 ? error.inner : [error];
  return [...new Set(each.map(faultWords))].join('; ');
}

function faultWords({ message, path, params }: ValidationError): string {
  const wanted = WRONG_TYPE.exec(message)?.[1];
  if (wanted === undefined) return message;
  return `${path || 'it'} must be ${TYPES[wanted] ?? wanted}, and is ${typeWords(params?.['originalValue'])}`;
}

function typeWords(value: unknown): string {
  if (Array.isArray(value)) return 'a list';
  if (value === null || value === undefined) return 'missing';
  return TYPES[typeof value] ?? typeof value;
}
