/** What a person did, as told by the type of the DOM event. */
export type Action = 'tap' | 'type' | 'press' | 'drag' | 'other';

const TAPS = new Set([
  'click',
  'pointerdown',
  'pointerup',
  'mousedown',
  'mouseup',
  'touchstart',
  'touchend',
  'dblclick',
  'auxclick',
  'contextmenu',
]);
const KEYS = new Set(['keydown', 'keyup', 'keypress']);
const EDITS = new Set([
  'input',
  'beforeinput',
  'compositionstart',
  'compositionupdate',
  'compositionend',
  'textInput',
]);
const DRAGS = new Set([
  'dragstart',
  'drag',
  'dragend',
  'drop',
  'dragover',
  'dragenter',
  'dragleave',
  'pointercancel',
]);

/** What begins the press of a key or of a pointer. */
const KEY_DOWN = 'keydown';
const GIVEN_UP = 'pointercancel';
const ENDS_OF_TAPS = new Set(['click', 'pointerup', 'mouseup', 'touchend', 'dblclick', 'auxclick']);

const TEXT_FIELD = /^(text field|search field|text area|editor|number field|combo box) /;

/**
 * @param type of the DOM event
 * @param target label of the element, which begins with its role
 */
export function actionOf(type: string, target: string): Action {
  if (TAPS.has(type)) return 'tap';
  if (EDITS.has(type)) return 'type';
  if (KEYS.has(type)) return TEXT_FIELD.test(target) ? 'type' : 'press';
  return DRAGS.has(type) ? 'drag' : 'other';
}

/**
 * What a person did, by all events of one interaction. That a value changed is typing only where a key was pressed or
 * text is kept there: a checkbox that is tapped changes too.
 * @param types of the events
 * @param longest type of the one that took longest
 */
export function actionOfGroup(types: readonly string[], longest: string, target: string): Action {
  const edited = types.find((type) => EDITS.has(type));
  const tapped = types.some((type) => TAPS.has(type));
  if (edited !== undefined && (types.includes(KEY_DOWN) || TEXT_FIELD.test(target) || target === '')) {
    return tapped && !types.includes(KEY_DOWN) && target === '' ? 'tap' : 'type';
  }
  if (tapped) return types.some((type) => DRAGS.has(type)) ? 'drag' : 'tap';
  return edited === undefined ? actionOf(longest, target) : 'other';
}

/** Whether the browser took a press of the pointer for a scroll or a zoom of its own, which no tap came of. */
export function isGivenUp(types: readonly string[]): boolean {
  return types.includes(GIVEN_UP) && !types.some((type) => ENDS_OF_TAPS.has(type));
}

const VERBS: Record<Action, string> = {
  tap: 'Tap',
  type: 'Type in',
  press: 'Press a key on',
  drag: 'Drag',
  other: 'Input on',
};

/** The label of an interaction: "Tap button “Board all”". */
export function actionLabel(action: Action, target: string): string {
  return `${VERBS[action]} ${target || 'the page'}`;
}

const DEEDS: Record<Action, string> = {
  tap: 'the tap on',
  type: 'the key typed in',
  press: 'the key pressed on',
  drag: 'the drag of',
  other: 'the input on',
};

/** An interaction within a sentence: "the tap on button “Board all”". */
export function actionDeed(action: Action, target: string): string {
  return `${DEEDS[action]} ${target || 'the page'}`;
}
