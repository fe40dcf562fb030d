import { optional, required, type RowOf } from './fields';

const thread = required('whole', 'Id of the thread it happened on.');
const startMs = required('time', 'When it began.');
const durationMs = required('duration', 'How long it lasted.');

/**
 * Shapes of the rows that carry one event each. Kinds that are interned tables (thread, source, function,
 * stack) or packed chunks (samples) have their shape here too, but are kept in memory in their own way.
 */
export const ROW_SHAPES = {
  thread: {
    id: required('whole', 'Id of the thread.'),
    name: required('text', 'Name for people, such as "main thread".'),
    type: required('text', '"main" or "worker".'),
  },
  source: {
    id: required('whole', 'Id of the script.'),
    url: required('text', 'Address the script was loaded from, without its query.'),
    map: optional('text', 'Address of its source map, when one was found.'),
    problem: optional('text', 'Why its functions could not be mapped to original source.'),
  },
  function: {
    id: required('whole', 'Id of the function.'),
    name: required('text', 'Name as the engine gives it; empty for an anonymous function.'),
    source: optional('whole', 'Id of the script; absent for code of the engine.'),
    line: optional('whole', 'Line in the script as it ran, from 1.'),
    column: optional('whole', 'Column in the script as it ran, from 1, in UTF-16 units.'),
    position: optional(
      'whole',
      'Offset in the script as it ran, from 0, where line and column are not known.',
    ),
    originalName: optional('text', 'Name in the original source.'),
    originalFile: optional('text', 'Path of the original source.'),
    originalLine: optional('whole', 'Line in the original source, from 1.'),
    originalColumn: optional('whole', 'Column in the original source, from 1.'),
    owner: optional('text', '"own", "library" or "browser".'),
    sameAs: optional('whole', 'Id of an earlier function that is the same one.'),
  },
  stack: {
    id: required('whole', 'Id of the stack.'),
    function: required('whole', 'Id of the innermost function.'),
    parent: optional('whole', 'Id of the stack of the caller; absent at the root.'),
  },
  samples: {
    thread,
    startMs: required('time', 'Time of the first sample.'),
    intervalMs: required('duration', 'Interval the samples were taken at.'),
    count: required('whole', 'Number of samples.'),
    data: required('text', 'Packed times and stacks.'),
  },
  task: {
    thread,
    startMs,
    durationMs,
    source: required('text', 'What reported it: "longtask".'),
  },
  frame: {
    thread,
    startMs,
    durationMs,
    renderStartMs: optional('time', 'When the rendering steps began; absent if nothing was rendered.'),
    styleStartMs: optional('time', 'When style and layout began.'),
    presentedMs: optional('time', 'When the frame was on the screen.'),
    blockingMs: optional('duration', 'Time by which an input would have been held up.'),
  },
  handler: {
    thread,
    startMs,
    durationMs,
    type: required('text', 'How script was entered: "event-listener", "user-callback", "classic-script", …'),
    invoker: required('text', 'What entered it, such as "BUTTON#board-all.onclick".'),
    function: optional('whole', 'Id of the function entered.'),
    forcedMs: optional('duration', 'Time in style and layout forced from inside.'),
    pauseMs: optional('duration', 'Time in synchronous pauses such as dialogs.'),
  },
  input: {
    thread,
    startMs,
    durationMs: required(
      'duration',
      'From the input to the next picture on the screen; 0 where belowMs is given.',
    ),
    type: required('text', 'Type of the DOM event.'),
    processingStartMs: optional('time', 'When its first listener began.'),
    processingEndMs: optional('time', 'When its last listener ended.'),
    interaction: optional('whole', 'Id shared by the events of one interaction; absent or 0 if it is none.'),
    target: optional('text', 'Short label of the element, from role, id or test id.'),
    belowMs: optional('duration', 'The engine reported nothing: the delay was below this.'),
  },
  span: {
    thread,
    startMs,
    durationMs,
    type: required('text', '"mark" or "measure" (User Timing), or "note" for a mark set in the tool.'),
    name: required('text', 'Its name.'),
  },
  request: {
    thread,
    startMs,
    durationMs,
    url: required('text', 'Address without query and fragment.'),
    initiator: required('text', 'What asked for it, such as "fetch" or "script".'),
    responseStartMs: optional('time', 'When the first byte of the answer came.'),
    bytes: optional('whole', 'Size of the answer on the wire.'),
    status: optional('whole', 'HTTP status.'),
  },
  state: {
    thread,
    startMs,
    type: required('text', '"visibility", "route", "load" or "leave".'),
    value: required('text', 'The new state.'),
  },
  pause: { startMs, durationMs },
  drop: {
    startMs,
    count: required('whole', 'Number of rows lost.'),
    reason: required('text', 'Why they were lost.'),
  },
  cost: {
    thread,
    startMs,
    durationMs,
    busyMs: required('duration', 'Time the recorder itself took on this thread.'),
    longestMs: required('duration', 'The longest single piece of it.'),
  },
  end: {
    startMs: required('time', 'When recording ended.'),
    reason: required('text', '"stopped", "target-left", "interrupted" or "full".'),
  },
} as const;

export type RowShapes = typeof ROW_SHAPES;
export type RowKind = keyof RowShapes;

export type RowContent<Kind extends RowKind> = RowOf<RowShapes[Kind]>;

/** A row as it stands in a recording: its kind and its fields. */
export type Row = { [Kind in RowKind]: { readonly kind: Kind } & RowContent<Kind> }[RowKind];
export type RowOfKind<Kind extends RowKind> = Extract<Row, { kind: Kind }>;

export function isRowKind(kind: string): kind is RowKind {
  return Object.hasOwn(ROW_SHAPES, kind);
}
