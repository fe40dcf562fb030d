/** Roles and names of elements are words of the page: one may be called "constructor". */
const ROLE_NAMES = {
  __proto__: null,
  a: 'link',
  textarea: 'text area',
  select: 'select',
  summary: 'summary',
  searchbox: 'search field',
  textbox: 'text field',
  checkbox: 'check box',
  listitem: 'item',
  tr: 'row',
  td: 'cell',
  li: 'item',
  svg: 'drawing',
  canvas: 'drawing',
  img: 'picture',
} as unknown as Partial<Record<string, string>>;

const INPUT_ROLES: Record<string, string> = {
  search: 'search field',
  checkbox: 'check box',
  radio: 'radio button',
  range: 'slider',
  button: 'button',
  submit: 'button',
  reset: 'button',
  number: 'number field',
};

const USABLE =
  'button,a[href],input,select,textarea,summary,[role],[contenteditable=""],[contenteditable="true"]';
const NAMED = '[id],[data-testid],[data-test]';
const LONGEST_NAME = 40;

function roleOf(element: Element): string {
  const role = element.getAttribute('role');
  const tag = element.localName;
  if (role) return ROLE_NAMES[role] ?? role.slice(0, LONGEST_NAME);
  if (tag === 'input') return INPUT_ROLES[(element as HTMLInputElement).type] ?? 'text field';
  if ((element as HTMLElement).isContentEditable) return 'editor';
  return ROLE_NAMES[tag] ?? (tag === 'button' || tag === 'label' ? tag : 'element');
}

/** "board-all" and "boardAll" as people would write it: "Board all". */
function humanise(name: string): string {
  const words = name
    .slice(0, LONGEST_NAME)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[-_\s]+/g, ' ')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function nameOf(element: Element): string {
  const name = element.getAttribute('data-testid') ?? element.getAttribute('data-test') ?? element.id;
  return humanise(name);
}

/**
 * A short label for an element: its role and, if it or something around it has one, its test id or id, as in
 * button “Board all”. Text, values and accessible names are not used: they may be private.
 */
export function elementLabel(target: EventTarget | null | undefined): string {
  const element = target instanceof Element ? target : target instanceof Node ? target.parentElement : null;
  if (element === null || element === document.documentElement) return 'page';
  const used = element.closest(USABLE) ?? element;
  const named = used.matches(NAMED) ? used : used.closest(NAMED);
  const role = roleOf(used);
  const name = named === null ? '' : nameOf(named);
  if (name === '') return role === 'element' ? used.localName : role;
  return used === named ? `${role} “${name}”` : `${role === 'element' ? 'place' : role} in “${name}”`;
}
