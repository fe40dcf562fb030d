const TEST_IDS = ['data-testid', 'data-test'];
const quoted = (value: string) => `"${CSS.escape(value)}"`;

/** What a name alone finds, by attributes that hold no text of a person. */
function nameOf(element: Element): string | undefined {
  for (const attribute of TEST_IDS) {
    const value = element.getAttribute(attribute);
    if (value) return `[${attribute}=${quoted(value)}]`;
  }
  if (element.id) return `#${CSS.escape(element.id)}`;
  const name = element.getAttribute('name');
  return name ? `${CSS.escape(element.localName)}[name=${quoted(name)}]` : undefined;
}

/** Place of an element among its siblings of the same type, as a selector. */
function placeOf(element: Element): string {
  let before = 0;
  let after = false;
  for (let other = element.previousElementSibling; other !== null; other = other.previousElementSibling) {
    if (other.localName === element.localName) before++;
  }
  for (let other = element.nextElementSibling; other !== null && !after; other = other.nextElementSibling) {
    after = other.localName === element.localName;
  }
  const tag = CSS.escape(element.localName);
  return before === 0 && !after ? tag : `${tag}:nth-of-type(${before + 1})`;
}

/**
 * A CSS selector whose first match is the element: its test id, id or name, else its place under the nearest
 * element that has one. An element inside a shadow root is found no nearer than by its host.
 */
export function selectorOf(element: Element): string {
  const name = nameOf(element);
  if (name !== undefined && document.querySelector(name) === element) return name;
  const { parentElement } = element;
  if (parentElement === null) return element.localName;
  return `${selectorOf(parentElement)} > ${placeOf(element)}`;
}
