import { apply } from '../natives';
import type { AnyFunction } from '../wrap/replace';

/** Does what a browser is about to do anyway, step by step, so that each can be timed. */
export class ProbeSteps {
  readonly #height = Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'offsetHeight')!.get!;
  readonly #box = Element.prototype.getBoundingClientRect;
  readonly #isVisible = Element.prototype.checkVisibility ?? (() => true);

  /** @param documents those in which it is done */
  constructor(private readonly documents: readonly Document[] = [document]) {}

  /**
   * Has style computed for the whole document, and no layout (CSSOM View, checkVisibility): asking about the root does
   * it wherever the document has changed. An engine without it has both done by the next step.
   */
  style(): void {
    this.#ask(this.#isVisible);
  }

  /** Has layout done. */
  layout(): void {
    this.#ask(this.#height);
  }

  #ask(question: AnyFunction): void {
    for (const { documentElement } of this.documents) {
      if (documentElement !== null) apply(question, documentElement, []);
    }
  }

  /**
   * Whether any of an element, or of that around a text, may lie in the part of the page that is shown. Asked when layout
   * is done. One without an area may have all that it holds beside it; one without a box is at no place at all.
   */
  isInView(node: Node): boolean {
    const element = node instanceof Element ? node : node.parentElement;
    if (element === null) return false;
    const { top, left, bottom, right, width, height } = apply(this.#box, element, []) as DOMRect;
    const { width: viewWidth, height: viewHeight } = visualViewport!;
    return width + height > 0
      ? bottom > 0 && right > 0 && top < viewHeight && left < viewWidth
      : top !== 0 || left !== 0;
  }
}
