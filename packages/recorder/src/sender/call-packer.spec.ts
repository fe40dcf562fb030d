import {
  CALL_END,
  FIRST_EXACT_FUNCTION,
  FORCED_LAYOUT_FUNCTION,
  RecordingBuilder,
  unpackCalls,
  type Row,
  type ScriptRegistration,
} from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { CallPacker } from './call-packer';

const registration: ScriptRegistration = {
  url: 'http://localhost:4781/desk.js',
  files: ['desk.js', 'src/deck/trim.ts'],
  functions: [
    ['desk.js', 0, 1, 1, 0],
    ['computeTrim', 1, 41, 8, 0],
    ['sort', 1, 3, 1, 1],
  ],
};
const [SCRIPT, COMPUTE_TRIM, SORT] = [0, 1, 2].map((at) => FIRST_EXACT_FUNCTION + at) as [
  number,
  number,
  number,
];

function chunk(events: [ms: number, id: number][], lost = 0, thread = 0) {
  return {
    recordingId: 'friday',
    thread,
    originMs: 1000,
    ids: Int32Array.from(events, ([, id]) => id),
    timesMs: Float64Array.from(events, ([ms]) => ms),
    count: events.length,
    lost,
  };
}

function newPacker(): CallPacker {
  const packer = new CallPacker();
  packer.register(FIRST_EXACT_FUNCTION, JSON.stringify(registration));
  return packer;
}
const kinds = (rows: readonly Row[]) => rows.map(({ kind }) => kind);

describe('packed calls', () => {
  it('tell of each function when it is first met, by its original name and place, and only then', () => {
    const packer = newPacker();
    const first = packer.pack(
      chunk([
        [1001, COMPUTE_TRIM],
        [1001.5, SORT],
        [1002, CALL_END],
        [1004, CALL_END],
      ]),
    );
    expect(kinds(first)).toEqual(['source', 'function', 'function', 'calls']);
    expect(first[1]).toMatchObject({
      originalName: 'computeTrim',
      originalFile: 'src/deck/trim.ts',
      originalLine: 41,
      owner: 'own',
    });
    expect(first[2]).toMatchObject({ originalName: 'sort', owner: 'library' });
    expect(
      kinds(
        packer.pack(
          chunk([
            [1005, COMPUTE_TRIM],
            [1006, CALL_END],
          ]),
        ),
      ),
    ).toEqual(['calls']);
  });

  it('count time from the start of the recording, and build the calls they were', () => {
    const builder = new RecordingBuilder();
    const rows = newPacker().pack(
      chunk([
        [1001, SCRIPT],
        [1002, COMPUTE_TRIM],
        [1002, FORCED_LAYOUT_FUNCTION],
        [1003, CALL_END],
        [1004, CALL_END],
        [1010, CALL_END],
      ]),
    );
    for (const row of rows) expect(builder.row(row)).toBeUndefined();
    const packed = rows.find((row) => row.kind === 'calls')!;
    expect([...unpackCalls(packed as Row & { kind: 'calls' }).timesUs]).toEqual([
      1000, 2000, 2000, 3000, 4000, 10_000,
    ]);
  });

  it('say what was lost, and that nothing open before it counts', () => {
    const rows = newPacker().pack(
      chunk(
        [
          [1500, COMPUTE_TRIM],
          [1501, CALL_END],
        ],
        640,
      ),
    );
    expect(rows.find(({ kind }) => kind === 'drop')).toMatchObject({ count: 640, startMs: 500 });
    expect(rows.at(-1)).toMatchObject({ kind: 'calls', fresh: true });
  });

  it('keep in mind what was running on the main thread when they ended', () => {
    const packer = newPacker();
    packer.pack(
      chunk([
        [1001, SCRIPT],
        [1002, COMPUTE_TRIM],
      ]),
    );
    packer.pack(chunk([[1003, SORT]], 0, 4));
    expect(packer.open).toEqual([SCRIPT, COMPUTE_TRIM]);
    packer.pack(chunk([[1004, CALL_END]]));
    expect(packer.open).toEqual([SCRIPT]);
  });

  it('name nothing of a script whose ids lie within those of another, behind a third', () => {
    const packer = new CallPacker();
    const functions = Array.from({ length: 100 }, () => registration.functions[1]!);
    packer.register(FIRST_EXACT_FUNCTION, JSON.stringify({ ...registration, functions }));
    for (const at of [10, 50]) packer.register(FIRST_EXACT_FUNCTION + at, JSON.stringify(registration));
    const rows = packer.functionRows('friday', [FIRST_EXACT_FUNCTION + 51, FIRST_EXACT_FUNCTION + 70]);
    expect(rows.flatMap((row) => (row.kind === 'function' ? [row.name] : []))).toEqual(['', '']);
  });

  it('name nothing where two scripts have the same ids, as one that an app has kept from another run', () => {
    for (const [firstId, functions] of [
      [FIRST_EXACT_FUNCTION, registration.functions],
      [FIRST_EXACT_FUNCTION + 2, registration.functions],
      [FIRST_EXACT_FUNCTION - 1, registration.functions],
    ] as const) {
      const packer = newPacker();
      packer.register(
        FIRST_EXACT_FUNCTION + 10,
        JSON.stringify({ ...registration, url: 'http://localhost:4781/far.js' }),
      );
      packer.register(FIRST_EXACT_FUNCTION, JSON.stringify(registration));
      packer.register(
        firstId,
        JSON.stringify({ ...registration, functions, url: 'http://localhost:4781/kept.js' }),
      );
      const rows = packer.functionRows('friday', [SCRIPT, COMPUTE_TRIM, SORT, FIRST_EXACT_FUNCTION + 11]);
      expect(rows.filter(({ kind }) => kind === 'drop')).toHaveLength(1);
      const names = rows.flatMap((row) => (row.kind === 'function' ? [row.name] : []));
      expect(names).toEqual(['', '', '', 'computeTrim']);
      expect(packer.functionRows('saturday', [SORT]).map(({ kind }) => kind)).toEqual(['function', 'drop']);
    }
  });
});
