import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ProbeSteps } from './probe-steps';

interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

class FakeElement {
  constructor(private readonly box: Box) {}
  getBoundingClientRect() {
    const { left, top, width, height } = this.box;
    return { left, top, width, height, right: left + width, bottom: top + height };
  }
  attachShadow(): void {}
}

beforeEach(() => {
  class FakeHtmlElement {
    get offsetHeight(): number {
      return 0;
    }
  }
  vi.stubGlobal('Element', FakeElement);
  vi.stubGlobal('HTMLElement', FakeHtmlElement);
  vi.stubGlobal('getComputedStyle', () => ({}));
  vi.stubGlobal('visualViewport', { width: 1280, height: 800 });
});
afterEach(() => vi.unstubAllGlobals());

const isInView = (left: number, top: number, width: number, height: number) =>
  new ProbeSteps([]).isInView(new FakeElement({ left, top, width, height }) as unknown as Element);

describe('an element', () => {
  it('is in view where any of it lies in the part of the page that is shown', () => {
    expect(isInView(1200, 700, 300, 300)).toBe(true);
    expect(isInView(-100, 0, 101, 20)).toBe(true);
    expect(isInView(1280, 0, 50, 50)).toBe(false);
    expect(isInView(0, -50, 50, 50)).toBe(false);
    expect(isInView(0, 900, 50, 50)).toBe(false);
  });

  it('that has no area may show what it holds, wherever it has been moved', () => {
    expect(isInView(-300, 120, 0, 0)).toBe(true);
  });

  it('that has no box shows nothing', () => {
    expect(isInView(0, 0, 0, 0)).toBe(false);
  });
});
