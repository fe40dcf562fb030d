/** Does what a browser is about to do anyway, step by step, so that each can be timed. */
export class ProbeSteps {
  readonly #computedStyle = getComputedStyle.bind(globalThis);
  readonly #height = Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'offsetHeight')!.get!;
  readonly #box = Element.prototype.getBoundingClientRect;
  readonly #attachShadow = Element.prototype.attachShadow;
  #sentinel: { readonly element: Element; readonly style: CSSStyleDeclaration } | undefined;
  #turn = 0;

  /** Puts the sentinel in its place, where there is a document to put it in. */
  prepare(): void {
    if (document.documentElement !== null) this.#sentinel ??= this.#plant();
  }

  /** Has style computed for the whole document: only a dirty one is, so the sentinel is made dirty first. */
  style(): void {
    const { element, style } = (this.#sentinel ??= this.#plant());
    style.setProperty('--turn', String((this.#turn ^= 1)));
    this.#computedStyle(element).getPropertyValue('--turn');
  }

  /** Has layout done. */
  layout(): void {
    Reflect.apply(this.#height, document.documentElement, []);
  }

  /**
   * Whether any of an element may lie in the part of the page that is shown. Asked when layout is done. One without an
   * area may have all that it holds beside it; one without a box is at no place at all.
   */
  isInView(element: Element): boolean {
    const { top, left, bottom, right, width, height } = Reflect.apply(this.#box, element, []) as DOMRect;
    const { width: viewWidth, height: viewHeight } = visualViewport!;
    return width + height > 0
      ? bottom > 0 && right > 0 && top < viewHeight && left < viewWidth
      : top !== 0 || left !== 0;
  }

  /** In a closed shadow tree, whose changes no observer of the app is told of. */
  #plant(): { element: Element; style: CSSStyleDeclaration } {
    const host = document.createElement('nettle-patch');
    host.style.cssText = 'all:initial;position:fixed;width:0;height:0;contain:strict;visibility:hidden';
    const element = document.createElement('i');
    const root = Reflect.apply(this.#attachShadow, host, [{ mode: 'closed' }]) as ShadowRoot;
    root.append(element);
    document.documentElement.append(host);
    return { element, style: element.style };
  }
}
