import type { Row } from '../format/rows';
import {
  ImportedTables,
  counted,
  numberIn,
  textIn,
  withoutSecrets,
  type Imported,
  type OpenFormat,
} from './imported';

/** A performance entry as its `toJSON` gives it (W3C Performance Timeline, section 4). */
type Entry = Readonly<Record<string, unknown>> & { readonly entryType: string };

function areEntries(value: unknown): value is readonly Entry[] {
  return (
    Array.isArray(value) &&
    value.length > 0 &&
    value.every((one) => typeof (one as Partial<Entry> | null)?.entryType === 'string')
  );
}

const thread = 0;
/** What follows an address in the words for what entered script. */
const ADDRESS = /\bhttps?:[^\s\]]*/g;
const QUERY = /[?#].*$/s;

/** Fields of an entry that are there, by the names they have in a row; a time of 0 means it is not known. */
function known(entry: Entry, names: Readonly<Record<string, string>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(names).flatMap(([field, name]) => {
      const value = numberIn(entry[name]);
      return value === undefined || value <= 0 ? [] : [[field, value]];
    }),
  );
}

/** An entry into script of a long frame (W3C Long Animation Frames). */
function scriptRow(script: Entry, tables: ImportedTables): Row {
  const url = textIn(script['sourceURL']);
  const position = numberIn(script['sourceCharPosition']) ?? -1;
  const entered =
    url === '' || position < 0
      ? undefined
      : tables.function({
          name: textIn(script['sourceFunctionName']),
          source: tables.source(withoutSecrets(url)),
          position,
        });
  return {
    kind: 'handler',
    thread,
    startMs: numberIn(script['startTime']) ?? 0,
    durationMs: numberIn(script['duration']) ?? 0,
    type: textIn(script['invokerType']) || 'script',
    invoker: textIn(script['invoker']).replaceAll(ADDRESS, (address) => address.replace(QUERY, '')),
    ...(entered === undefined ? {} : { function: entered }),
    ...known(script, { forcedMs: 'forcedStyleAndLayoutDuration', pauseMs: 'pauseDuration' }),
  };
}

type Reader = (entry: Entry, startMs: number, durationMs: number, tables: ImportedTables) => Row[];

const input: Reader = (entry, startMs, durationMs) => [
  {
    kind: 'input',
    thread,
    startMs,
    durationMs,
    type: textIn(entry['name']),
    interaction: numberIn(entry['interactionId']) ?? 0,
    ...known(entry, { processingStartMs: 'processingStart', processingEndMs: 'processingEnd' }),
  },
];

const request: Reader = (entry, startMs, durationMs) => [
  {
    kind: 'request',
    thread,
    startMs,
    durationMs,
    url: withoutSecrets(textIn(entry['name'])),
    initiator: textIn(entry['initiatorType']) || 'navigation',
    ...known(entry, { responseStartMs: 'responseStart', bytes: 'transferSize', status: 'responseStatus' }),
  },
];

const span: Reader = (entry, startMs, durationMs) => [
  { kind: 'span', thread, startMs, durationMs, type: entry.entryType, name: textIn(entry['name']) },
];

const state =
  (type: string, value: (entry: Entry) => string): Reader =>
  (entry, startMs) => [{ kind: 'state', thread, startMs, type, value: value(entry) }];

/** How each type of entry is read, by the standard that defines it. */
const READERS: Readonly<Record<string, Reader>> = {
  event: input,
  'first-input': input,
  longtask: (_entry, startMs, durationMs) => [
    { kind: 'task', thread, startMs, durationMs, source: 'longtask' },
  ],
  'long-animation-frame': (entry, startMs, durationMs, tables) => [
    {
      kind: 'frame',
      thread,
      startMs,
      durationMs,
      ...known(entry, {
        renderStartMs: 'renderStart',
        styleStartMs: 'styleAndLayoutStart',
        presentedMs: 'presentationTime',
        blockingMs: 'blockingDuration',
      }),
    },
    ...(Array.isArray(entry['scripts']) ? (entry['scripts'] as Entry[]) : []).map((script) =>
      scriptRow(script, tables),
    ),
  ],
  mark: span,
  measure: span,
  resource: request,
  navigation: request,
  paint: state('paint', (entry) => textIn(entry['name'])),
  'largest-contentful-paint': state('paint', () => 'largest-contentful-paint'),
  'layout-shift': state('shift', (entry) => (numberIn(entry['value']) ?? 0).toFixed(4)),
  'visibility-state': state('visibility', (entry) => textIn(entry['name'])),
};

/** What a row of it lets one see, as the recorder names it. */
const SOURCE_OF: Readonly<Record<string, string>> = { 'first-input': 'event', navigation: 'resource' };

/** Reads a list of performance entries as their `toJSON` gives them (W3C Performance Timeline). */
function readPerformanceEntries(entries: readonly Entry[]): Imported {
  const tables = new ImportedTables();
  const rows: Row[] = [];
  const available = new Set<string>();
  const unread = new Map<string, number>();
  const keyOf = (entry: Entry) => `${textIn(entry['name'])} ${String(entry['startTime'])}`;
  const events = new Set(entries.filter(({ entryType }) => entryType === 'event').map(keyOf));
  let untimed = 0;
  let endMs = 0;
  for (const entry of entries) {
    const { entryType } = entry;
    const read = Object.hasOwn(READERS, entryType) ? READERS[entryType] : undefined;
    const startMs = numberIn(entry['startTime']);
    const durationMs = Math.max(0, numberIn(entry['duration']) ?? 0);
    if (read === undefined) unread.set(entryType, (unread.get(entryType) ?? 0) + 1);
    else if (startMs === undefined || startMs < 0) untimed++;
    else if (entryType !== 'first-input' || !events.has(keyOf(entry))) {
      available.add(SOURCE_OF[entryType] ?? entryType);
      rows.push(...read(entry, startMs, durationMs, tables));
      endMs = Math.max(endMs, startMs + durationMs);
    }
  }
  const page = entries.find(({ entryType }) => entryType === 'navigation');
  return {
    format: 'performance entries',
    available: [...available],
    url: withoutSecrets(textIn(page?.['name'])),
    lost: [
      'Performance entries hold no stacks below the entries into script, and do not say what an input was done to.',
      ...[...unread].map(
        ([type, count]) => `${counted(count, 'entry', 'entries')} of type "${type}" cannot be shown.`,
      ),
      ...(untimed > 0 ? [`${counted(untimed, 'entry has', 'entries have')} no time and were left out.`] : []),
    ],
    rows: [
      { kind: 'thread', id: 0, name: 'main thread', type: 'main' },
      ...tables.rows,
      ...rows,
      { kind: 'end', startMs: endMs, reason: 'stopped' },
    ],
  };
}

export const performanceEntriesFormat: OpenFormat<readonly Entry[]> = {
  name: 'a list of performance entries',
  isJson: true,
  recognises: areEntries,
  read: readPerformanceEntries,
};
