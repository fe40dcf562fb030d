/**
 * The field types a row is made of. One definition of a row's fields serves the check of what is read, the
 * columns in memory and the JSON Schema of the format.
 */
export type FieldType =
  /** Milliseconds from the start of the recording; may be negative for what began before it. */
  | 'time'
  /** Milliseconds, zero or more. */
  | 'duration'
  /** A whole number, 0 to 2^31 - 1. */
  | 'whole'
  | 'text'
  | 'flag';

export interface Field<Type extends FieldType = FieldType, Optional extends boolean = boolean> {
  readonly type: Type;
  readonly optional: Optional;
  readonly about: string;
}

export type Shape = Readonly<Record<string, Field>>;

type FieldValue<Type extends FieldType> = Type extends 'text'
  ? string
  : Type extends 'flag'
    ? boolean
    : number;

type RequiredKeys<S extends Shape> = {
  [Key in keyof S]: S[Key]['optional'] extends true ? never : Key;
}[keyof S];

/** The plain object a shape describes: required fields, and optional ones that may be absent. */
export type RowOf<S extends Shape> = {
  [Key in RequiredKeys<S>]: FieldValue<S[Key]['type']>;
} & {
  [Key in Exclude<keyof S, RequiredKeys<S>>]?: FieldValue<S[Key]['type']>;
};

export const MAX_WHOLE = 2 ** 31 - 1;

/** A required field. */
export function required<Type extends FieldType>(type: Type, about: string): Field<Type, false> {
  return { type, optional: false, about };
}

/** A field that may be absent. */
export function optional<Type extends FieldType>(type: Type, about: string): Field<Type, true> {
  return { type, optional: true, about };
}

const EXPECTED: Record<FieldType, string> = {
  time: 'a number of milliseconds',
  duration: 'a number of milliseconds, zero or more',
  whole: 'a whole number, zero or more',
  text: 'a text',
  flag: 'true or false',
};

function fits(type: FieldType, value: unknown): boolean {
  switch (type) {
    case 'time':
      return typeof value === 'number' && Number.isFinite(value) && Math.abs(value) < 1e12;
    case 'duration':
      return typeof value === 'number' && value >= 0 && value < 1e12;
    case 'whole':
      return Number.isInteger(value) && (value as number) >= 0 && (value as number) <= MAX_WHOLE;
    case 'text':
      return typeof value === 'string';
    case 'flag':
      return typeof value === 'boolean';
  }
}

/**
 * Compares a parsed row with the shape of its kind.
 * @returns undefined when it fits, else words that name the field, what was expected and what came.
 */
export function rowProblem(shape: Shape, row: Readonly<Record<string, unknown>>): string | undefined {
  for (const name in shape) {
    const field = shape[name]!;
    const value = row[name];
    if (value === undefined ? field.optional : fits(field.type, value)) continue;
    const came = value === undefined ? 'it is missing' : `got ${JSON.stringify(value)?.slice(0, 40)}`;
    return `"${name}" must be ${EXPECTED[field.type]}, ${came}`;
  }
  return undefined;
}
