import type { Capture } from '../page/capture/capture';
import { listen } from '../page/natives';

const STYLE =
  'all:initial;position:fixed;z-index:2147483647;left:8px;bottom:8px;display:flex;gap:8px;align-items:center;padding:4px 4px 4px 10px;border-radius:14px;font:13px/20px system-ui,sans-serif;color:#fff;background:#7d1742';
const BUTTON =
  'all:initial;width:24px;height:24px;border-radius:12px;font:16px/24px system-ui,sans-serif;text-align:center;color:#fff;cursor:pointer';

/** Says on the page that it is being recorded, for as long as it is and until it is put away. */
export class RecordingIndicator implements Capture {
  readonly name = 'sign';
  readonly available = true;
  #element: HTMLElement | undefined;
  #putAway = false;

  start(): void {
    if (this.#putAway || this.#element !== undefined) return;
    const element = document.createElement('div');
    const words = document.createElement('span');
    const button = document.createElement('button');
    element.style.cssText = STYLE;
    element.setAttribute('role', 'status');
    words.textContent = 'This page is being recorded';
    button.style.cssText = BUTTON;
    button.textContent = '×';
    button.setAttribute('aria-label', 'Put this sign away');
    listen(button, 'click', () => {
      this.#putAway = true;
      this.stop();
    });
    element.attachShadow({ mode: 'closed' }).append(words, button);
    element.dataset['nettlePatch'] = 'sign';
    document.documentElement.append(element);
    this.#element = element;
  }

  stop(): void {
    this.#element?.remove();
    this.#element = undefined;
  }
}
