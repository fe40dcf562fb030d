import type { EmittedRow } from '../../../../docs/reference-emitter.mjs';

interface Code {
  readonly name: string;
  readonly file?: string;
  readonly line?: number;
  /** Line and column at which it stands while it works. */
  readonly at?: readonly [line: number, column: number];
  readonly owner: 'own' | 'library' | 'browser';
  readonly activity?: string;
}

/** The functions of the phone's program: its own, a picture library's, and the system's. */
const CODE = {
  dispatch: { name: 'MessageLoop.dispatch', owner: 'browser' },
  touch: { name: 'TouchQueue.deliver', owner: 'browser' },
  openDeck: { name: 'DeckList.open', file: 'app/deck_list.hand', line: 18, at: [22, 7], owner: 'own' },
  inflateRow: { name: 'DeckRow.inflate', file: 'app/deck_row.hand', line: 9, at: [21, 9], owner: 'own' },
  inflate: { name: 'ViewMaker.inflate', owner: 'browser' },
  measure: { name: 'measure and place views', owner: 'browser', activity: 'layout' },
  draw: { name: 'draw views', owner: 'browser', activity: 'paint' },
  scan: { name: 'Ticket.scan', file: 'app/ticket.hand', line: 31, at: [38, 5], owner: 'own' },
  decode: {
    name: 'Picture.decode',
    file: 'lib/pictures/picture.hand',
    line: 140,
    at: [163, 11],
    owner: 'library',
  },
  bind: { name: 'DeckRow.bind', file: 'app/deck_row.hand', line: 44, at: [51, 5], owner: 'own' },
  collect: { name: 'collector', owner: 'browser', activity: 'collection' },
  sync: { name: 'Manifest.sync', file: 'app/manifest.hand', line: 27, at: [33, 5], owner: 'own' },
  waitForLock: { name: 'Lock.acquire', owner: 'browser', activity: 'other' },
  writeRows: { name: 'Store.write', file: 'lib/store/store.hand', line: 88, at: [104, 9], owner: 'library' },
} as const satisfies Record<string, Code>;
export type CodeName = keyof typeof CODE;

const NAMES = Object.keys(CODE) as CodeName[];

/** Where a function stands while it works, as fields of a stack; none where that is not known. */
export function placeOf(name: CodeName): { readonly line?: number; readonly column?: number } {
  const { at }: Code = CODE[name];
  return at === undefined ? {} : { line: at[0], column: at[1] };
}

export const functionId = (name: CodeName): number => NAMES.indexOf(name);

/** A function row for each. */
export function functionRows(): EmittedRow[] {
  return NAMES.map((name, id) => {
    const { name: shown, file, line, owner, activity }: Code = CODE[name];
    return {
      kind: 'function',
      id,
      name: shown,
      owner,
      ...(file === undefined ? {} : { originalName: shown, originalFile: file, originalLine: line }),
      ...(activity === undefined ? {} : { activity }),
    };
  });
}
