import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { arbitraryRecording, recordingOf } from '../testing/arbitrary-recording';
import { callBlocks, libraryStems } from './call-blocks';
import { canonicalFunction } from './call-path';
import { partition } from './partition';
import { fillMissingStacks } from './missing-stacks';

const RANGE = { startMs: 0, endMs: 2500 };

describe('call blocks', () => {
  it('never overlap at the same depth, and lie within their caller', () => {
    fc.assert(
      fc.property(arbitraryRecording, (recording) => {
        const blocks = callBlocks(recording, partition(recording, 0, RANGE));
        const endAt = new Map<number, number>();
        for (const block of blocks) {
          expect(block.endMs).toBeGreaterThan(block.startMs);
          expect(block.startMs).toBeGreaterThanOrEqual((endAt.get(block.depth) ?? 0) - 1e-9);
          if (block.depth > 0) expect(block.endMs).toBeLessThanOrEqual(endAt.get(block.depth - 1)! + 1e-9);
          endAt.set(block.depth, block.endMs);
        }
      }),
    );
  });

  it('stand a library under the own function that called it', () => {
    const recording = recordingOf([
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
      { kind: 'function', id: 1, name: 'chunk', source: 0, owner: 'library' },
      { kind: 'function', id: 2, name: 'map', source: 0, owner: 'library' },
      { kind: 'stack', id: 0, function: 0 },
      { kind: 'stack', id: 1, function: 1, parent: 0 },
      { kind: 'stack', id: 2, function: 2, parent: 1 },
      {
        kind: 'handler',
        thread: 0,
        startMs: 0,
        durationMs: 40,
        type: 'event-listener',
        invoker: 'BUTTON',
        function: 0,
      },
      {
        kind: 'samples',
        ...packSamples(0, 10, { timesUs: [5000, 15_000, 25_000, 35_000], stacks: [0, 2, 2, 0] }),
      } as Row,
    ]);
    const segments = [...partition(recording, 0, { startMs: 0, endMs: 40 })];
    expect(
      callBlocks(recording, segments).map(({ functionId, startMs, endMs }) => [functionId, startMs, endMs]),
    ).toEqual([[0, 0, 40]]);
    expect(libraryStems(recording, segments)).toMatchObject([
      { functionId: 2, depth: 1, startMs: 10, endMs: 30 },
    ]);
  });
});

describe('a function met under several ids', () => {
  it('goes by one of them, even where rows point in a circle', () => {
    const recording = recordingOf([
      { kind: 'function', id: 0, name: 'stow' },
      { kind: 'function', id: 1, name: 'stow', sameAs: 0 },
      { kind: 'function', id: 2, name: 'stow', sameAs: 1 },
    ]);
    expect([0, 1, 2].map((id) => canonicalFunction(recording, id))).toEqual([0, 0, 0]);
    const circle = recordingOf([
      { kind: 'function', id: 0, name: 'stow' },
      { kind: 'function', id: 1, name: 'stow', sameAs: 0 },
      { kind: 'function', id: 0, name: 'stow', sameAs: 1 },
    ]);
    expect([0, 1]).toContain(canonicalFunction(circle, 0));
  });
});

describe('samples without a stack', () => {
  const { stacks } = recordingOf([
    { kind: 'function', id: 0, name: 'onBoardAll' },
    { kind: 'function', id: 1, name: 'trim' },
    { kind: 'stack', id: 0, function: 0 },
    { kind: 'stack', id: 1, function: 1, parent: 0 },
  ]);

  it('are taken for what was seen around them, the inner one where one was called from the other', () => {
    expect(fillMissingStacks(stacks, [0, -1, 1])!.at(1)).toEqual({ stack: 1, seen: false });
    expect(fillMissingStacks(stacks, [-1, 1, -1, -1, 0])).toEqual([
      { stack: 0, seen: false },
      { stack: 1, seen: true },
      { stack: 1, seen: false },
      { stack: 1, seen: false },
      { stack: 0, seen: true },
    ]);
    expect(fillMissingStacks(stacks, [-1, -1])).toBeUndefined();
    expect(fillMissingStacks(stacks, [])).toBeUndefined();
  });
});
