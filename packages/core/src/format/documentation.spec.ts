import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import { readRecording } from '../recording/read';
import { checkLine } from './check-row';
import { crc32 } from './crc32';
import { CALL_END, packCalls, unpackCalls } from './packed-calls';
import { packCounts, unpackCounts } from './packed-counts';
import { packSamples, unpackSamples } from './packed-samples';
import { recorded } from '../testing/recorded';
import { encodeRecording } from '../recording/encoder';
import { HEADER_FIELDS } from './header';
import { lineSchema } from './json-schema';
import { ROW_SHAPES } from './rows';

const text = readFileSync(new URL('../../../../docs/recording-format.md', import.meta.url), 'utf8');
const blocks = [...text.matchAll(/```(json|js)\n([\s\S]*?)```/g)].map(([, language, body]) => ({
  language,
  body: body!,
}));

describe('the documentation of the format', () => {
  it('lists every kind with every field, its type and what it means', () => {
    for (const [kind, shape] of Object.entries(ROW_SHAPES)) {
      const section = text.split(`### ${kind}\n`)[1]?.split('\n### ')[0] ?? '';
      for (const [name, { type, optional, about }] of Object.entries(shape)) {
        const row = section
          .split('\n')
          .find((line) => line.startsWith(`| \`${name}\``))
          ?.replace(/\s+/g, ' ');
        expect(row, `${kind}.${name}`).toBe(
          `| \`${name}\` | ${type}${optional ? ', optional' : ''} | ${about} |`,
        );
      }
    }
  });

  it('shows a smallest recording that opens without loss', () => {
    const smallest = blocks.find(({ body }) => body.includes('"header"'))!.body;
    const { recording, notices } = readRecording([new TextEncoder().encode(smallest)]);
    expect(notices).toEqual([]);
    expect(recording.events.task.length).toBe(1);
  });

  it('prints a decoder that agrees with this one, and a vector that both read', () => {
    const source = blocks.find(({ body }) => body.includes('decodeSamples'))!.body;
    const decode = new Function(`${source}; return decodeSamples;`)() as (
      row: object,
    ) => { timeMs: number; stack: number }[];
    const row = JSON.parse(/`(\{"kind":"samples".*?\})`/.exec(text)![1]!);
    expect(decode(row)).toEqual([
      { timeMs: 1, stack: -1 },
      { timeMs: 11.2, stack: 0 },
      { timeMs: 21.3, stack: 5 },
    ]);
    expect(unpackSamples(row)).toEqual({ timesUs: [1000, 11_200, 21_300], stacks: [-1, 0, 5] });
  });

  it('prints a decoder of what came together that agrees with this one, and a vector that both read', () => {
    const source = blocks.find(({ body }) => body.includes('decodeTogether'))!.body;
    const decode = new Function(`${source}; return decodeTogether;`)() as (row: object) => number[];
    const row = JSON.parse(/`(\{"kind":"samples".*?"together".*?\})`/.exec(text)![1]!);
    const together = [1, 4, 4, 4, 4, 1];
    expect(decode(row)).toEqual(together);
    expect(decode({})).toEqual([]);
    const timesUs = together.map((_, at) => 1000 + at * 1000);
    const columns = { timesUs, stacks: together.map(() => 0), together };
    expect({ kind: 'samples', ...packSamples(0, 1, columns) }).toEqual(row);
    expect(unpackSamples(row)).toEqual(columns);
  });

  it('prints a decoder of calls that agrees with this one, and a vector that both read', () => {
    const source = blocks.find(({ body }) => body.includes('decodeCalls'))!.body;
    const decode = new Function(`${source}; return decodeCalls;`)() as (
      row: object,
    ) => { timeMs: number; begins: number | null }[];
    const row = JSON.parse(/`(\{"kind":"calls".*?\})`/.exec(text)![1]!);
    expect(decode(row)).toEqual([
      { timeMs: 1, begins: 7 },
      { timeMs: 1.5, begins: 9 },
      { timeMs: 2, begins: null },
      { timeMs: 4, begins: null },
    ]);
    const events = { timesUs: [1000, 1500, 2000, 4000], functions: [7, 9, CALL_END, CALL_END] };
    expect({ kind: 'calls', ...packCalls(0, events) }).toEqual(row);
    const unpacked = unpackCalls(row);
    expect([...unpacked.timesUs]).toEqual(events.timesUs);
    expect([...unpacked.functions]).toEqual(events.functions);
  });

  it('prints a decoder of counts that agrees with this one, and a vector that both read', () => {
    const source = blocks.find(({ body }) => body.includes('decodeCounts'))!.body;
    const decode = new Function(`${source}; return decodeCounts;`)() as (
      row: object,
    ) => { function: number; calls: number }[];
    const row = JSON.parse(/`(\{"kind":"counts".*?\})`/.exec(text)![1]!);
    expect(decode(row)).toEqual([
      { function: 7, calls: 3 },
      { function: 300, calls: 2000 },
    ]);
    const columns = { functions: [7, 300], counts: [3, 2000] };
    expect({ kind: 'counts', ...packCounts(0, 0, 1000, columns) }).toEqual(row);
    expect(unpackCounts(row)).toEqual(columns);
  });

  it('shows a check line as it is written', () => {
    const shown = blocks.find(({ body }) => body.includes('"check"'))!.body.trim();
    const value = Number.parseInt((JSON.parse(shown) as { crc32: string }).crc32, 16);
    expect(checkLine(value)).toBe(shown);
    expect(crc32(new Uint8Array(0))).toBe(0);
  });
});

describe('the JSON Schema of the format', () => {
  const schema = JSON.parse(
    readFileSync(new URL('../../../../docs/recording.schema.json', import.meta.url), 'utf8'),
  ) as object;
  const isLine = new Ajv2020().compile(schema);

  it('knows every field of the header, as the documentation does', () => {
    const { properties } = (schema as { anyOf: { properties: object }[] }).anyOf[0]!;
    const table = text.split('\n## ').find((section) => section.includes('| `startedAt`'))!;
    for (const name of HEADER_FIELDS.filter((one) => one !== 'kind')) {
      expect(properties).toHaveProperty(name);
      expect(table).toMatch(new RegExp(`^\\|[^|]*\`${name}\``, 'm'));
    }
  });

  it('is the one that the shapes of the rows give', () => {
    expect(schema).toEqual(lineSchema());
  });

  it.each(['board-all-exact', 'deck-drag'])('holds for every line of the recording %s', (name) => {
    for (const line of encodeRecording(recorded(name))) {
      expect(
        isLine(JSON.parse(line)),
        `${line.slice(0, 200)}: ${JSON.stringify(isLine.errors?.slice(0, 2))}`,
      ).toBe(true);
    }
  });

  it('lets kinds pass that it does not know, and nothing that does not fit', () => {
    expect(isLine({ kind: 'weather', wind: 'south' })).toBe(true);
    expect(isLine({ kind: 'task', thread: 0, startMs: 1, durationMs: -2, source: 'longtask' })).toBe(false);
    expect(isLine({ kind: 'task', thread: 0, startMs: 1, durationMs: 2 })).toBe(false);
    expect(isLine({ thread: 0 })).toBe(false);
  });
});
