import { KEYS, MODIFIERS, type Modifier, type Step } from '@nettle-patch/core';
import { Pointing } from './pointing';
import { Scrolling } from './scrolling';
import { selectorOf } from './selector';
import { TypedText, isSecret, rememberPasswords } from './typed-text';

export interface KeptStep {
  readonly startMs: number;
  readonly endMs: number;
  readonly step: Step;
}

/** A second click within this is not yet known to be the half of a double click. Milliseconds. */
const UNSURE_MS = 700;
/** Letters and turns of the wheel that come later begin a new step. Milliseconds. */
const TYPING_GAP_MS = 1500;
const SCROLLING_GAP_MS = 400;

/** Keys by which a soft keyboard says that the text comes otherwise. */
const TOLD_BY_INPUT = ['Unidentified', 'Process'];

/** The element an event is for: the host of a shadow root where it is inside of one. */
function elementOf({ target }: Event): Element {
  return target instanceof Element ? target : document.documentElement;
}

/** The very element an event is for, inside of open shadow roots too. */
function innermostOf(event: Event): Element {
  const [innermost] = event.composedPath?.() ?? [];
  return innermost instanceof Element ? innermost : elementOf(event);
}

/** Turns the events of a person's input into steps. Times are those of `Event.timeStamp`, in milliseconds. */
export class StepRecorder {
  #done: KeptStep[] = [];
  #pointing: Pointing | undefined;
  #typed: TypedText | undefined;
  #scrolling: Scrolling | undefined;
  #swipeFrom: { x: number; y: number } | undefined;
  #softKeyboard = false;

  /** @param keepsTexts whether what is typed is kept; what is secret never is */
  constructor(private readonly keepsTexts: boolean) {}

  /** The steps that are sure by now, and no more held here. */
  take(nowMs: number): KeptStep[] {
    const unsureMs = nowMs - UNSURE_MS;
    this.#endOld(nowMs);
    const later = this.#done.findIndex(({ endMs }) => endMs > unsureMs);
    return this.#done.splice(0, later < 0 ? this.#done.length : later);
  }

  /** All steps, those included that are not yet over. */
  takeAll(): KeptStep[] {
    this.#endAll();
    return this.#done.splice(0);
  }

  handle(event: Event): void {
    if (!event.isTrusted) return;
    if (event.type === 'pointerdown' || event.type === 'keydown') rememberPasswords(innermostOf(event));
    switch (event.type) {
      case 'pointerdown':
        return this.#down(event as PointerEvent);
      case 'pointermove':
        return this.#pointing?.move();
      case 'pointerup':
      case 'drop':
        return this.#up(event as MouseEvent);
      case 'dragstart':
        if (this.#pointing !== undefined) this.#pointing.carries = true;
        return;
      case 'dragend':
        this.#pointing = undefined;
        return;
      case 'pointercancel':
        return this.#cancel(event as PointerEvent);
      case 'dblclick':
        return this.#double(event);
      case 'wheel':
        return this.#wheel(event as WheelEvent);
      case 'scroll':
        return this.#moved(event);
      case 'keydown':
        return this.#key(event as KeyboardEvent);
      case 'input':
        return this.#input(event as InputEvent);
      case 'change':
        return this.#change(event);
      default:
    }
  }

  #keep(startMs: number, endMs: number, step: Step | undefined): void {
    if (step !== undefined) this.#done.push({ startMs, endMs, step });
  }

  #endTyping(): void {
    const typed = this.#typed;
    this.#typed = undefined;
    if (typed !== undefined) this.#keep(typed.startMs, typed.endMs, typed.step);
  }

  #endScrolling(): void {
    const scrolling = this.#scrolling;
    this.#scrolling = undefined;
    this.#swipeFrom = undefined;
    if (scrolling !== undefined) this.#keep(scrolling.startMs, scrolling.endMs, scrolling.step);
  }

  #endAll(): void {
    this.#endTyping();
    this.#endScrolling();
  }

  #endOld(nowMs: number): void {
    if (this.#typed !== undefined && this.#typed.endMs < nowMs - TYPING_GAP_MS) this.#endTyping();
    if (this.#scrolling !== undefined && this.#scrolling.endMs < nowMs - SCROLLING_GAP_MS) {
      this.#endScrolling();
    }
  }

  #down(event: PointerEvent): void {
    if (!event.isPrimary || event.button !== 0) return;
    this.#endAll();
    this.#pointing = new Pointing(event.timeStamp, elementOf(event), event);
    this.#swipeFrom = { x: scrollX, y: scrollY };
  }

  #up(event: MouseEvent): void {
    const pointing = this.#pointing;
    if (pointing === undefined || (event.type === 'drop') !== pointing.carries) return;
    this.#pointing = undefined;
    const step = pointing.step(event, event.timeStamp);
    const opensChoice = step.do === 'click' && pointing.element instanceof HTMLSelectElement;
    if (!opensChoice) this.#keep(pointing.startMs, event.timeStamp, step);
  }

  /** The browser has taken the pointer over: for its own drag and drop, or to scroll. */
  #cancel({ pointerType }: PointerEvent): void {
    const pointing = this.#pointing;
    if (pointing === undefined || pointing.carries) return;
    this.#pointing = undefined;
    if (pointerType === 'touch') this.#scrolling = new Scrolling(pointing.startMs, undefined);
  }

  #double(event: Event): void {
    const on = selectorOf(elementOf(event));
    const [first, second] = this.#done.slice(-2);
    if (first === undefined || second?.step.do !== 'click' || first.step.do !== 'click') return;
    if (second.step.on !== on || first.step.on !== on) return;
    this.#done.splice(-2);
    this.#keep(first.startMs, second.endMs, { ...first.step, do: 'double-click' });
  }

  #wheel(event: WheelEvent): void {
    if (event.ctrlKey) return;
    const element = elementOf(event);
    this.#endTyping();
    this.#endOld(event.timeStamp);
    if (this.#scrolling?.element !== element) this.#endScrolling();
    this.#scrolling ??= new Scrolling(event.timeStamp, element);
    this.#scrolling.turn(event, event.timeStamp);
  }

  #moved(event: Event): void {
    const scrolling = this.#scrolling;
    const from = this.#swipeFrom;
    if (scrolling?.element !== undefined) scrolling.moved(event.target);
    else if (from !== undefined) scrolling?.swipe(scrollX - from.x, scrollY - from.y, event.timeStamp);
  }

  #key(event: KeyboardEvent): void {
    const { key, ctrlKey, altKey, metaKey } = event;
    this.#endScrolling();
    this.#softKeyboard = TOLD_BY_INPUT.includes(key) || event.isComposing;
    if (this.#softKeyboard || elementOf(event) instanceof HTMLSelectElement) return;
    // On many keyboards Alt, alone or with Ctrl, makes letters.
    const isCommand = (ctrlKey && !altKey) || metaKey;
    const isLetter = [...key].length === 1;
    if (isLetter && !isCommand) return this.#type(key, event);
    if ((MODIFIERS as readonly string[]).includes(key) || !(isLetter || key in KEYS)) return;
    this.#endTyping();
    const held = MODIFIERS.filter((name): name is Modifier => event.getModifierState(name));
    const step: Step = { do: 'key', key, ...(held.length === 0 ? {} : { with: held }) };
    this.#keep(event.timeStamp, event.timeStamp, step);
  }

  /** Letters of which no key has told: those of a soft keyboard, or of several keys. */
  #input(event: InputEvent): void {
    if (!this.#softKeyboard || event.isComposing || !event.data) return;
    this.#type(event.data, event);
  }

  #type(letters: string, event: Event): void {
    const field = elementOf(event);
    this.#endOld(event.timeStamp);
    if (this.#typed?.field !== field) this.#endTyping();
    this.#typed ??= new TypedText(event.timeStamp, field, this.keepsTexts && !isSecret(innermostOf(event)));
    this.#typed.add(letters, event.timeStamp);
  }

  #change(event: Event): void {
    const element = elementOf(event);
    if (!(element instanceof HTMLSelectElement)) return;
    this.#endAll();
    const index = Math.max(0, element.selectedIndex);
    this.#keep(event.timeStamp, event.timeStamp, { do: 'choose', on: selectorOf(element), index });
  }
}
