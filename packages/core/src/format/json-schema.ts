import { MAX_QUIET } from './limits';
import type { Field, FieldType, Shape } from './fields';
import { MAX_WHOLE } from './fields';
import { ROW_SHAPES } from './rows';
import { FORMAT_NAME } from './version';

type Schema = Readonly<Record<string, unknown>>;

const TYPES: Record<FieldType, Schema> = {
  time: { type: 'number', exclusiveMinimum: -1e12, exclusiveMaximum: 1e12 },
  duration: { type: 'number', minimum: 0, exclusiveMaximum: 1e12 },
  whole: { type: 'integer', minimum: 0, maximum: MAX_WHOLE },
  text: { type: 'string' },
  flag: { type: 'boolean' },
};

function schemaOfField({ type, about }: Field): Schema {
  return { ...TYPES[type], description: about };
}

function schemaOfRow(kind: string, shape: Shape): Schema {
  const fields = Object.entries(shape);
  return {
    type: 'object',
    properties: {
      kind: { const: kind },
      ...Object.fromEntries(fields.map(([name, field]) => [name, schemaOfField(field)])),
    },
    required: ['kind', ...fields.filter(([, { optional }]) => !optional).map(([name]) => name)],
  };
}

const text: Schema = { type: 'string' };
const texts: Schema = { type: 'array', items: text };

const replay = {
  type: 'object',
  properties: {
    steps: { type: 'array', items: { type: 'object' }, minItems: 1 },
    times: { type: 'integer', minimum: 1 },
  },
  required: ['steps', 'times'],
};

const HEADER: Schema = {
  type: 'object',
  properties: {
    kind: { const: 'header' },
    format: { const: FORMAT_NAME },
    version: { type: 'string', pattern: '^\\d{1,4}\\.\\d{1,4}$' },
    id: { type: 'string', minLength: 1, maxLength: 64 },
    startedAt: { type: 'string', description: 'Date and time in ISO 8601.' },
    title: { type: 'string', maxLength: 200 },
    mode: { enum: ['everyday', 'exact'] },
    fine: { type: 'boolean' },
    isolated: { type: 'boolean' },
    clockReadMs: { type: 'number', minimum: 0, maximum: 1 },
    delayStepMs: { type: 'number', minimum: 0, maximum: 1000 },
    weightUnit: { type: 'string', minLength: 1, maxLength: 40 },
    timeless: { type: 'boolean' },
    startUp: { type: 'boolean' },
    clockStepMs: { type: 'number', minimum: 0, maximum: 1000 },
    refreshMs: { type: 'number', exclusiveMinimum: 0, maximum: 1000 },
    speed: { type: 'number', exclusiveMinimum: 0, maximum: 1000 },
    slowed: { type: 'number', exclusiveMinimum: 1, maximum: 100 },
    thresholds: { type: 'object', additionalProperties: { type: 'number' } },
    quiet: {
      type: 'array',
      maxItems: MAX_QUIET,
      items: {
        type: 'object',
        properties: { startMs: { type: 'number', minimum: 0 }, endMs: { type: 'number', minimum: 0 } },
        required: ['startMs', 'endMs'],
      },
    },
    replay,
    /** Its name before there was one. */
    again: { ...replay, deprecated: true },
    target: {
      type: 'object',
      properties: { title: text, url: text, engine: { type: 'string', minLength: 1 }, device: text },
      required: ['title', 'url', 'engine', 'device'],
    },
    available: texts,
    missing: texts,
  },
  required: [
    'kind',
    'format',
    'version',
    'id',
    'startedAt',
    'title',
    'mode',
    'clockStepMs',
    'refreshMs',
    'target',
    'available',
    'missing',
  ],
};

/**
 * JSON Schema (draft 2020-12) of one line of a recording. Lines of kinds that are not in it are valid: readers keep
 * and pass over what they do not know.
 */
export function lineSchema(): Schema {
  const rows = Object.entries(ROW_SHAPES).map(([kind, shape]) => schemaOfRow(kind, shape));
  const known = ['header', ...Object.keys(ROW_SHAPES)];
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'One line of a Nettle Patch recording',
    type: 'object',
    required: ['kind'],
    anyOf: [HEADER, ...rows, { properties: { kind: { type: 'string', not: { enum: known } } } }],
  };
}
