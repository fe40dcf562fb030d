import { describe, expect, it } from 'vitest';
import { RunFiller } from './run-filler';

function filled(draw: (filler: RunFiller) => void): { style: unknown; alpha: number; rect: number[] }[] {
  const calls: { style: unknown; alpha: number; rect: number[] }[] = [];
  const context = {
    fillStyle: '',
    globalAlpha: 1,
    fillRect(...rect: number[]) {
      calls.push({ style: context.fillStyle, alpha: context.globalAlpha, rect });
    },
  };
  const filler = new RunFiller(context as unknown as CanvasRenderingContext2D);
  draw(filler);
  filler.flush();
  return calls;
}

describe('filling many rectangles', () => {
  it('draws narrow ones of one kind beside each other as one', () => {
    const calls = filled((filler) => {
      for (let x = 0; x < 50; x++) filler.rect(x, 4, 1, 10, 'blue', 0.9);
    });
    expect(calls).toEqual([{ style: 'blue', alpha: 1, rect: [0, 4, 50, 10] }]);
  });

  it('keeps apart what differs, in kind, in how full it is, in its row, or by a gap', () => {
    const calls = filled((filler) => {
      filler.rect(0, 4, 1, 10, 'blue', 1);
      filler.rect(1, 4, 1, 10, 'red', 1);
      filler.rect(2, 4, 1, 10, 'red', 0.3);
      filler.rect(3, 22, 1, 10, 'red', 0.3);
      filler.rect(8, 22, 1, 10, 'red', 0.3);
    });
    expect(calls.map(({ rect }) => rect[0])).toEqual([0, 1, 2, 3, 8]);
    expect(calls[2]!.alpha).toBe(0.5);
  });

  it('draws wide ones as they are', () => {
    const calls = filled((filler) => {
      filler.rect(0, 4, 40, 10, 'blue', 0.9);
      filler.rect(40.5, 4, 40, 10, 'blue', 0.9);
    });
    expect(calls.map(({ rect }) => rect)).toEqual([
      [0, 4, 40, 10],
      [40.5, 4, 40, 10],
    ]);
    expect(calls[0]!.alpha).toBe(0.9);
  });
});
