import { ValidationError, string, type InferType, type Schema } from 'yup';
import { validationWords } from '../words/validation-words';

/** The field by which messages of a union are told apart. */
export function typeName<Name extends string>(name: Name) {
  return string<Name>().oneOf([name]).required();
}

/** Thrown when a message does not have the shape the protocol gives it. */
export class ProtocolError extends Error {
  override readonly name = 'ProtocolError';
}

export function fromJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new ProtocolError((error as Error).message);
  }
}

export function checked<T>(value: unknown, schema: Schema<T>): T {
  try {
    return schema.validateSync(value, { strict: true });
  } catch (error) {
    if (error instanceof ValidationError) throw new ProtocolError(validationWords(error));
    throw error;
  }
}

export function typeOf(value: unknown): unknown {
  return typeof value === 'object' && value !== null && 'type' in value ? value.type : undefined;
}

/** @returns the value by the schema of its type */
export function ofType<Schemas extends Record<string, Schema>>(
  value: unknown,
  schemas: Schemas,
): { [Name in keyof Schemas]: InferType<Schemas[Name]> }[keyof Schemas] {
  const name = typeOf(value);
  if (typeof name !== 'string' || !Object.hasOwn(schemas, name))
    throw new ProtocolError(`type must be one of ${Object.keys(schemas).join(', ')}, and is ${String(name)}`);
  return checked(value, schemas[name] as Schema<never>);
}

/** @returns the value of a JSON text by the schema of its type. @throws ProtocolError where it is none of them */
export function ofTypes<Schemas extends Record<string, Schema>>(
  text: string,
  schemas: Schemas,
): { [Name in keyof Schemas]: InferType<Schemas[Name]> }[keyof Schemas] {
  return ofType(fromJson(text), schemas);
}
