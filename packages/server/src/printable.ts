/** Characters that move a terminal's cursor, recolour it, or turn the order of text (ECMA-48; Unicode, section 23.2). */
const CONTROLS = /[\p{Cc}\p{Zl}\p{Zp}\p{Bidi_Control}]/gu;

/** A text whose control characters are shown by their numbers, so that no name in a recording can speak to a terminal. */
export function printable(text: string): string {
  return text.replace(CONTROLS, (control) => `\\u${control.charCodeAt(0).toString(16).padStart(4, '0')}`);
}
