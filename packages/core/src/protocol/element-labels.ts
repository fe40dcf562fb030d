type Maybe = string | null | undefined | false;

/** What a page tells of an element, in place of a label, which is made of it outside of the page; nothing of the page itself. */
export type ElementFacts =
  | readonly []
  | readonly [
      role: Maybe,
      tag: string,
      /** `type` of a field. */
      type: Maybe,
      isEditable: boolean,
      /** Test id or id of the element, or of one around it. */
      name: Maybe,
      /** Whether the name is that of one around it. */
      isWithin: boolean,
      /** Visible text of a control, where it was asked for. */
      text: Maybe,
    ];

const BEGIN = '\u0002';
const PART = '\u0001';
const END = '\u0003';
// eslint-disable-next-line no-control-regex -- they stand around facts
const FACTS = /\u0002([^\u0003]*)\u0003/g;
// eslint-disable-next-line no-control-regex -- the words of a page are not to hold any
const CONTROL = /[\u0000-\u001f\u007f]/g;

/** Fields of rows that may hold facts of elements. */
const FIELDS = ['target', 'reason', 'within'] as const;

/** Longer names and texts are cut. */
export const MAX_NAME = 40;

/** Roles and names of elements are words of the page: one may be called "constructor". */
const ROLES = new Map([
  ['a', 'link'],
  ['textarea', 'text area'],
  ['select', 'select'],
  ['summary', 'summary'],
  ['button', 'button'],
  ['label', 'label'],
  ['searchbox', 'search field'],
  ['textbox', 'text field'],
  ['checkbox', 'check box'],
  ['listitem', 'item'],
  ['tr', 'row'],
  ['td', 'cell'],
  ['li', 'item'],
  ['svg', 'drawing'],
  ['canvas', 'drawing'],
  ['img', 'picture'],
  ['iframe', 'frame'],
]);

const FIELD_ROLES = new Map([
  ['search', 'search field'],
  ['checkbox', 'check box'],
  ['radio', 'radio button'],
  ['range', 'slider'],
  ['button', 'button'],
  ['submit', 'button'],
  ['reset', 'button'],
  ['number', 'number field'],
]);

/** Facts as a text that stands where the label will. */
export function packFacts(facts: ElementFacts): string {
  return BEGIN + facts.map((fact) => fact || '').join(PART) + END;
}

function roleOf(role: string, tag: string, type: string, isEditable: boolean): string {
  if (role !== '') return ROLES.get(role) ?? role.slice(0, MAX_NAME);
  if (tag === 'input') return FIELD_ROLES.get(type) ?? 'text field';
  return isEditable ? 'editor' : (ROLES.get(tag) ?? 'element');
}

/** "board-all" and "boardAll" as people would write it: "Board all". */
function humanise(name: string): string {
  const words = name
    .slice(0, MAX_NAME)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[-_\s]+/g, ' ')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/**
 * A short label for an element: its role and, if it or something around it has one, its test id or id, as in
 * button “Board all”. Its text stands in place of an id where it was asked for; values and accessible names never do.
 */
function labelOf(packed: string): string {
  const [role = '', tag = '', type = '', editable = '', name = '', within = '', text = ''] =
    packed.split(PART);
  if (tag === '') return 'page';
  const known = roleOf(role, tag, type, editable !== '');
  const seen = text.replace(/\s+/g, ' ').trim();
  if (seen !== '') return `${known} “${seen}”`;
  const named = humanise(name);
  if (named === '') return known === 'element' ? tag : known;
  return within === '' ? `${known} “${named}”` : `${known === 'element' ? 'place' : known} in “${named}”`;
}

/** The same row with labels where it holds facts of elements. */
export function withLabels<Row extends object>(row: Row): Row {
  const labels = FIELDS.flatMap((field) => {
    const value = (row as Partial<Record<typeof field, unknown>>)[field];
    if (typeof value !== 'string' || !value.includes(BEGIN)) return [];
    return [[field, value.replace(FACTS, (_all, packed: string) => labelOf(packed)).replace(CONTROL, '')]];
  });
  return labels.length === 0 ? row : { ...row, ...Object.fromEntries(labels) };
}

/** The same for rows in JSON, one a line. */
export function linesWithLabels(lines: string): string {
  const labelled = (line: string) => {
    try {
      return JSON.stringify(withLabels(JSON.parse(line) as object));
    } catch {
      return line;
    }
  };
  return lines
    .split('\n')
    .map((line) => (line.includes('\\u0002') ? labelled(line) : line))
    .join('\n');
}
