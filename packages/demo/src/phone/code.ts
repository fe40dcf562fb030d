import type { EmittedRow } from '../../../../docs/reference-emitter.mjs';

interface Code {
  readonly name: string;
  readonly file?: string;
  readonly line?: number;
  /** Line at which it stands while it works. */
  readonly at?: number;
  readonly owner: 'own' | 'library' | 'browser';
  readonly activity?: string;
}

/** The functions of the phone's program: its own, a picture library's, and the system's. */
const CODE = {
  dispatch: { name: 'MessageLoop.dispatch', owner: 'browser' },
  touch: { name: 'TouchQueue.deliver', owner: 'browser' },
  openDeck: { name: 'DeckList.open', file: 'app/deck_list.hand', line: 18, owner: 'own' },
  inflateRow: { name: 'DeckRow.inflate', file: 'app/deck_row.hand', line: 9, at: 21, owner: 'own' },
  inflate: { name: 'ViewMaker.inflate', owner: 'browser' },
  measure: { name: 'measure and place views', owner: 'browser', activity: 'layout' },
  draw: { name: 'draw views', owner: 'browser', activity: 'paint' },
  scan: { name: 'Ticket.scan', file: 'app/ticket.hand', line: 31, at: 38, owner: 'own' },
  decode: { name: 'Picture.decode', file: 'lib/pictures/picture.hand', line: 140, owner: 'library' },
  bind: { name: 'DeckRow.bind', file: 'app/deck_row.hand', line: 44, at: 51, owner: 'own' },
  collect: { name: 'collector', owner: 'browser', activity: 'collection' },
  sync: { name: 'Manifest.sync', file: 'app/manifest.hand', line: 27, owner: 'own' },
  waitForLock: { name: 'Lock.acquire', owner: 'browser', activity: 'other' },
  writeRows: { name: 'Store.write', file: 'lib/store/store.hand', line: 88, owner: 'library' },
} as const satisfies Record<string, Code>;
export type CodeName = keyof typeof CODE;

const NAMES = Object.keys(CODE) as CodeName[];

/** Line at which a function stands while it works, where that is known. */
export function lineOf(name: CodeName): number | undefined {
  const { at }: Code = CODE[name];
  return at;
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
