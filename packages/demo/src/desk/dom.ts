/** The element with an id that the page is known to have. */
export function byId<E extends HTMLElement = HTMLElement>(id: string): E {
  const element = document.getElementById(id);
  if (element === null) throw new Error(`the page has no element "${id}"`);
  return element as E;
}

/** A new element with a class and a text. */
export function make(tag: string, className: string, text = ''): HTMLElement {
  const element = document.createElement(tag);
  element.className = className;
  element.textContent = text;
  return element;
}
