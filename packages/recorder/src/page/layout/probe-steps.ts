import { apply } from '../natives';

/** Does what a browser is about to do anyway, step by step, so that each can be timed. */
export class ProbeSteps {
  readonly #height = Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'offsetHeight')!.get!;
  readonly #box = Element.prototype.getBoundingClientRect;
  readonly #isVisible = Element.prototype.checkVisibility ?? (() => true);

  /**
   * Has style computed for the whole document, and no layout (CSSOM View, checkVisibility): asking about the root does
   * it wherever the document has changed. An engine without it has both done by the next step.
   */
  style(): void {
    const root = document.documentElement;
    if (root !== null) apply(this.#isVisible, root, []);
  }

  /** Has layout done. */
  layout(): void {
    const root = document.documentElement;
    if (root !== null) apply(this.#height, root, []);
  }

  /**
   * Whether any of an element may lie in the part of the page that is shown. Asked when layout is done. One without an
   * area may have all that it holds beside it; one without a box is at no place at all.
   */
  isInView(element: Element): boolean {
    const { top, left, bottom, right, width, height } = apply(this.#box, element, []) as DOMRect;
    const { width: viewWidth, height: viewHeight } = visualViewport!;
    return width + height > 0
      ? bottom > 0 && right > 0 && top < viewHeight && left < viewWidth
      : top !== 0 || left !== 0;
  }
}
