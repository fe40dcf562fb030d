import { signal } from '@angular/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { shown } from '../../testing/shown';
import { BoxGraphComponent } from './box-graph.component';
import { PALETTE } from './palette';
import type { RowBox } from './box-rows';

interface NamedBox extends RowBox {
  readonly name: string;
}

const BOXES: NamedBox[] = [
  { name: 'onBoardAll', depth: 0, left: 0, width: 1 },
  { name: 'trimOfPair', depth: 1, left: 0, width: 0.5 },
  { name: 'drawTide', depth: 1, left: 0.5, width: 0.5 },
];

beforeEach(() => {
  // jsdom has no canvas and lays nothing out.
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue({
    setTransform: () => undefined,
    clearRect: () => undefined,
  } as never);
  vi.spyOn(HTMLCanvasElement.prototype, 'clientWidth', 'get').mockReturnValue(200);
  Object.defineProperty(document, 'fonts', { value: { ready: Promise.resolve() }, configurable: true });
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe = () => undefined;
      disconnect = () => undefined;
    },
  );
});

// Other components are tested on the same page.
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
  Reflect.deleteProperty(document, 'fonts');
});

async function graph() {
  const told: string[] = [];
  const inputs = { boxes: BOXES, label: 'Calls', painter: () => () => undefined };
  const one = await shown<BoxGraphComponent<NamedBox>>(BoxGraphComponent, inputs, [
    { provide: PALETTE, useValue: signal({}) },
  ]);
  one.component.choose.subscribe(({ name }) => told.push(`choose ${name}`));
  one.component.zoom.subscribe((box) => told.push(`zoom ${box?.name}`));
  one.component.pointed.subscribe((box) => told.push(`point ${box?.name}`));
  const canvas = one.element.querySelector('canvas')!;
  const at = (type: string, x: number, y: number) => {
    const event = new MouseEvent(type, { bubbles: true });
    Object.defineProperties(event, { offsetX: { value: x }, offsetY: { value: y } });
    canvas.dispatchEvent(event);
  };
  const press = (key: string) => {
    const event = new KeyboardEvent('keydown', { key, cancelable: true });
    canvas.dispatchEvent(event);
    return event.defaultPrevented;
  };
  return { ...one, told, at, press, canvas };
}

describe('boxes in rows', () => {
  it('are as high as their rows, and no higher than is asked for', async () => {
    const { canvas, set } = await graph();
    expect(canvas.style.height).toBe('52px');
    await set({ maxDepth: 1 });
    expect(canvas.style.height).toBe('30px');
  });

  it('are pointed at, chosen and widened where they are', async () => {
    const { told, at } = await graph();
    at('pointermove', 150, 30);
    at('click', 20, 30);
    at('dblclick', 20, 5);
    at('click', 20, 90);
    at('pointerleave', 0, 0);
    expect(told).toEqual(['point drawTide', 'choose trimOfPair', 'zoom onBoardAll', 'point undefined']);
  });

  it('are walked by keys from the one that is chosen, which points them out, and other keys are left to the page', async () => {
    const { told, press, set } = await graph();
    expect(press('ArrowDown')).toBe(true);
    await set({ current: BOXES[1] });
    press('ArrowRight');
    press('Enter');
    press('Escape');
    expect(told).toEqual([
      'choose trimOfPair',
      'point trimOfPair',
      'choose drawTide',
      'point drawTide',
      'zoom trimOfPair',
      'zoom undefined',
    ]);
    expect(press('q')).toBe(false);
  });
});
