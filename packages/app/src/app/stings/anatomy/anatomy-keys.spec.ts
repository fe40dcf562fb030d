import { describe, expect, it } from 'vitest';
import type { Shape } from './anatomy-layout';
import { shapeByKey } from './anatomy-keys';

const shape = (text: string, x: number, width: number, y: number): Shape => ({
  kind: 'own',
  x,
  y,
  width,
  height: 20,
  text,
  words: text,
  range: { startMs: 0, endMs: 1 },
});
const WAITING = shape('waiting', 0, 40, 36);
const HANDLING = shape('handling', 40, 400, 36);
const OUTER = shape('onBoardAll', 40, 400, 94);
const LEFT = shape('trimOfPair', 50, 100, 115);
const RIGHT = shape('bendingOf', 300, 100, 115);
const SHAPES = [WAITING, HANDLING, OUTER, LEFT, RIGHT];

const walk = (from: Shape | undefined, ...keys: string[]) =>
  keys.reduce<Shape | undefined>((at, key) => shapeByKey(SHAPES, at, key), from)?.text;

describe('walking through the drawing by keys', () => {
  it('begins with the first shape', () => {
    expect(walk(undefined, 'ArrowRight')).toBe('waiting');
  });

  it('goes along a row, and to the nearest one in the next', () => {
    expect(walk(WAITING, 'ArrowRight')).toBe('handling');
    expect(walk(WAITING, 'ArrowRight', 'ArrowDown', 'ArrowDown')).toBe('bendingOf');
    expect(walk(LEFT, 'ArrowRight')).toBe('bendingOf');
    expect(walk(RIGHT, 'ArrowUp', 'ArrowUp', 'ArrowLeft')).toBe('waiting');
  });

  it('leads nowhere at an edge, and by other keys', () => {
    expect(walk(WAITING, 'ArrowLeft')).toBeUndefined();
    expect(walk(RIGHT, 'ArrowDown')).toBeUndefined();
    expect(walk(RIGHT, 'x')).toBeUndefined();
  });
});
