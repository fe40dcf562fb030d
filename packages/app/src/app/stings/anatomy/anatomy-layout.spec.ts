import type { Anatomy, CallBlock, Segment, Sting } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { layOutAnatomy, shapeAt } from './anatomy-layout';

const STING: Sting = {
  kind: 'slow-response',
  also: [],
  extent: 'block',
  isRate: false,
  thread: 0,
  label: 'Tap button “Board all”',
  startMs: 1000,
  endMs: 1600,
  feltMs: 600,
  budgetMs: 200,
};
const block = (functionId: number, depth: number, startMs: number, endMs: number): CallBlock => ({
  functionId,
  depth,
  startMs,
  endMs,
  owner: 'own',
  certainty: 'sampled',
});
const segment = (activity: Segment['activity'], startMs: number, endMs: number): Segment => ({
  activity,
  startMs,
  endMs,
  owner: 'own',
  certainty: 'inferred',
  stack: -1,
  entry: -1,
});
const FUNCTIONS = new Map([
  [0, { name: 'onBoardAll', place: 'src/deck/deck.ts:48', owner: 'own' as const }],
  [1, { name: 'computeTrim', place: 'src/deck/trim.ts:41', owner: 'own' as const }],
]);

function anatomy(changes: Partial<Anatomy> = {}): Anatomy {
  const phase = (name: 'waiting' | 'handling' | 'drawing', startMs: number, endMs: number) => ({
    name,
    startMs,
    endMs,
    blame: {} as Anatomy['blame'],
    culprits: [],
    script: {
      lengthMs: 0,
      lead: undefined,
      below: undefined,
      library: undefined,
      beside: undefined,
      entered: undefined,
      leadForcedMs: 0,
    },
  });
  return {
    sting: STING,
    phases: [phase('waiting', 1000, 1050), phase('handling', 1050, 1500), phase('drawing', 1500, 1600)],
    blame: {} as Anatomy['blame'],
    segments: [segment('idle', 1000, 1050), segment('script', 1050, 1500), segment('drawing', 1500, 1600)],
    culprits: [],
    recorderMs: 0,
    blocks: [block(0, 0, 1050, 1500), block(1, 1, 1060, 1400)],
    stems: [],
    handlers: [],
    forcedMs: 0,
    forced: [],
    unseenMs: 0,
    inTheWay: [],
    queued: [],
    missed: [],
    ...changes,
  };
}

describe('the drawing of a sting', () => {
  it('spans its width, with the budget where it ends', () => {
    const { scale, budgetX, shapes } = layOutAnatomy(anatomy(), FUNCTIONS, 620);
    expect([scale.x(1000), scale.x(1600)]).toEqual([10, 610]);
    expect(budgetX).toBe(210);
    const phases = shapes.slice(0, 3).map(({ kind, x, width }) => [kind, x, width]);
    expect(phases).toEqual([
      ['waiting', 10, 50],
      ['handling', 60, 450],
      ['drawing', 510, 100],
    ]);
  });

  it('marks each frame that was missed where it was', () => {
    expect(layOutAnatomy(anatomy({ missed: [1100, 1400] }), FUNCTIONS, 620).missedX).toEqual([110, 410]);
  });

  it('stands calls under their callers, and grows with depth', () => {
    const shallow = layOutAnatomy(anatomy({ blocks: [block(0, 0, 1050, 1500)] }), FUNCTIONS, 620);
    const deep = layOutAnatomy(anatomy(), FUNCTIONS, 620);
    const [outer, inner] = deep.shapes.filter(({ functionId }) => functionId !== undefined);
    expect(inner!.y).toBeGreaterThan(outer!.y);
    expect(deep.height).toBeGreaterThan(shallow.height);
  });

  it('finds what is pointed at, the innermost where things overlap', () => {
    const layout = layOutAnatomy(anatomy(), FUNCTIONS, 620);
    const inner = layout.shapes.find(({ functionId }) => functionId === 1)!;
    expect(shapeAt(layout, inner.x + 5, inner.y + 5)?.words).toBe(
      'computeTrim, src/deck/trim.ts:41: 340 ms, sampled',
    );
    expect(shapeAt(layout, 5, layout.height)).toBeUndefined();
  });

  it('stands a thorn at each place that forced layout, which says what was read and how often', () => {
    const row = {
      thread: 0,
      durationMs: 300,
      styleMs: 10,
      layoutMs: 50,
      read: 'offsetWidth',
      write: 'style',
    };
    const forced = [{ ...row, startMs: 1100, count: 40, costMs: 60 }];
    const { shapes } = layOutAnatomy(anatomy({ forced }), FUNCTIONS, 620);
    expect(shapes.filter(({ kind }) => kind === 'thorn')).toMatchObject([
      {
        x: 110,
        width: 60,
        words: '60 ms: layout forced 40 times by reading offsetWidth, after style was written',
      },
    ]);
  });

  it('gives figures to the dearest thorns where there is no room for all', () => {
    const row = { thread: 0, durationMs: 5, styleMs: 1, layoutMs: 1, read: 'offsetLeft', count: 2 };
    const forced = [1080, 1100, 1120, 1400].map((startMs, at) => ({
      ...row,
      startMs,
      costMs: [2, 9, 4, 3][at]!,
    }));
    const { shapes } = layOutAnatomy(anatomy({ forced }), FUNCTIONS, 620);
    const texts = shapes.filter(({ kind }) => kind === 'thorn').map(({ x, text }) => [x, text]);
    expect(texts.filter(([, text]) => text !== '')).toEqual([
      [110, '9.0 ms forced layout'],
      [410, '3.0 ms forced layout'],
    ]);
    expect(texts).toHaveLength(4);
  });

  it('shows style, layout and paint where the render probe told them apart', () => {
    const segments = [
      segment('style', 1500, 1520),
      segment('layout', 1520, 1560),
      segment('paint', 1560, 1600),
    ];
    const { shapes } = layOutAnatomy(anatomy({ segments }), FUNCTIONS, 620);
    expect(
      shapes.filter(({ text }) => ['style', 'layout', 'paint'].includes(text)).map(({ width }) => width),
    ).toEqual([20, 40, 40]);
  });

  it('marks where the engine gave no stack, and forced layout as wide as it took', () => {
    const handler = {
      thread: 0,
      startMs: 1050,
      durationMs: 450,
      type: 'event-listener',
      invoker: 'BUTTON',
      forcedMs: 120,
    };
    const { shapes } = layOutAnatomy(anatomy({ handlers: [handler] }), FUNCTIONS, 620);
    expect(shapes.find(({ kind }) => kind === 'unseen')).toMatchObject({ x: 60, width: 450 });
    expect(shapes.find(({ kind }) => kind === 'thorn')).toMatchObject({
      x: 60,
      width: 120,
      text: '120 ms forced layout',
    });
  });
});
