import { scriptAsWritten } from '@nettle-patch/core';

/**
 * Puts the text back into the script that runs now, where it stands in the page: it was read already, and what compares
 * the page with what a server wrote finds it as it was. A module does not tell which element it is.
 */
export function showAsWritten(): void {
  const script = document.currentScript;
  const text = script?.firstChild;
  if (!(script instanceof HTMLScriptElement) || script.src !== '' || !(text instanceof Text)) return;
  text.data = scriptAsWritten(text.data);
}
