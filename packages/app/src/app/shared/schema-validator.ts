import type { AbstractControl, ValidationErrors, ValidatorFn } from '@angular/forms';
import { validationWords } from '@nettle-patch/core';
import { ValidationError } from 'yup';

/** A schema of several fields. */
interface FieldsSchema {
  validateSyncAt(name: string, value: unknown): unknown;
}

/**
 * Checks a field by the part of a schema that has its name. What is wrong stands in `errors.refused`, in words for the
 * field's own error.
 * @param read what a person typed, as the schema takes it
 */
export function schemaValidator(
  schema: FieldsSchema,
  name: string,
  read: (typed: unknown) => unknown = (typed) => typed,
): ValidatorFn {
  return ({ value }: AbstractControl<unknown>): ValidationErrors | null => {
    try {
      schema.validateSyncAt(name, { [name]: read(value) });
      return null;
    } catch (error) {
      if (!(error instanceof ValidationError)) throw error;
      return { refused: wordsOf(error) };
    }
  };
}

/** "It must be greater than or equal to 1."; of one of several lines: "Line 2 must…". */
function wordsOf(error: ValidationError): string {
  const { path = '' } = error;
  const message = validationWords(error);
  const line = /\[(\d+)\]$/.exec(path)?.[1];
  const subject = line === undefined ? 'It' : `Line ${Number(line) + 1}`;
  const words = message.startsWith(`${path} `) ? subject + message.slice(path.length) : message;
  return words.endsWith('.') ? words : `${words}.`;
}
