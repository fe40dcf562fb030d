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
    exact: optional('flag', 'Whether it was rewritten on the way, so that every call of it is recorded.'),
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
    partLength: optional(
      'whole',
      'Where the script is not known: length of the last part of its text that partHash is of, in UTF-16 units.',
    ),
    partHash: optional('text', 'FNV-1a hash, 32 bits in hexadecimal, of the UTF-16 units of that part.'),
    place: optional('flag', 'Line and column are a place inside the function, not its start.'),
    every: optional(
      'whole',
      'Of the calls that have this id, each stands for so many of the function that it is the same as.',
    ),
    closer: optional('flag', 'In fine mode: its calls, and all that they call, were recorded exactly.'),
    activity: optional(
      'text',
      'For what is no script: "style", "layout", "paint", "collection" or "other" work of the engine, or "dialog" for the time of a person in front of one.',
    ),
  },
  text: {
    file: required(
      'text',
      'Path of an original source, or address of a script, as function rows lead to it.',
    ),
    text: required('text', 'Its text.'),
  },
  stack: {
    id: required('whole', 'Id of the stack.'),
    function: required('whole', 'Id of the innermost function.'),
    parent: optional('whole', 'Id of the stack of the caller; absent at the root.'),
    line: optional(
      'whole',
      'Line at which the function stood, from 1: in its original file where the function has one, else in the script as it ran.',
    ),
    column: optional('whole', 'Column at which it stood, from 1, in UTF-16 units.'),
  },
  samples: {
    thread,
    startMs: required('time', 'Time of the first sample.'),
    intervalMs: required('duration', 'Interval the samples were taken at.'),
    count: required('whole', 'Number of samples.'),
    data: required('text', 'Packed times and stacks.'),
    together: optional(
      'text',
      'Packed: how many samples came of one measurement, where some did not come one by one; since 1.1.',
    ),
  },
  weight: {
    thread,
    stack: required('whole', 'Id of the stack.'),
    value: required('duration', 'What the stack weighs, in the unit that the header tells as "weightUnit".'),
  },
  calls: {
    thread,
    startMs: required('time', 'Time of the first event.'),
    durationMs: required('duration', 'From the first event to the last.'),
    count: required('whole', 'Number of events: each call has one for its beginning and one for its end.'),
    base: required('whole', 'Number that is added to each packed function to give its id.'),
    fresh: optional('flag', 'No call was running before the first event; what was open has ended unseen.'),
    data: required('text', 'Packed events.'),
  },
  counts: {
    thread,
    startMs: required('time', 'When counting began.'),
    durationMs: required('duration', 'How long was counted.'),
    count: required('whole', 'Number of functions that were called meanwhile.'),
    base: required('whole', 'Number that is added to each packed function to give its id.'),
    data: required('text', 'Packed functions, each with how often it was called.'),
  },
  offset: {
    thread,
    startMs: required('time', 'When the clocks were compared, on the clock of the recording.'),
    offsetMs: required(
      'time',
      'What is to be added to the times of all later rows of this thread, which are on a clock of its own.',
    ),
  },
  task: {
    thread,
    startMs,
    durationMs,
    source: required('text', 'What reported it: "longtask", or "own" for the recorder\'s own measuring.'),
    within: optional(
      'text',
      'Frame of another origin that it ran in, in words; absent where it is not told.',
    ),
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
    id: optional('whole', 'Id of this handler, where others refer to it.'),
    schedule: optional('whole', 'Id of the schedule that led to it.'),
    function: optional('whole', 'Id of the function entered.'),
    forcedMs: optional('duration', 'Time in style and layout forced from inside.'),
    pauseMs: optional('duration', 'Time in synchronous pauses such as dialogs.'),
    from: optional('whole', 'Of a message from another thread: id of that thread.'),
    nth: optional('whole', 'Which it is of the messages from there, from 1.'),
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
    belowMs: optional(
      'duration',
      'The engine reported nothing: the delay was below this, or the page was left by then.',
    ),
  },
  schedule: {
    thread,
    startMs: required('time', 'When it was asked for.'),
    id: required('whole', 'Id of the schedule.'),
    type: required(
      'text',
      '"timer", "interval", "frame", "idle", "message", "microtask", "request" or "observer".',
    ),
    by: optional('whole', 'Id of the handler that asked for it.'),
    function: optional('whole', 'Id of the function that asked for it.'),
    delayMs: optional('duration', 'The delay asked for.'),
    url: optional('text', 'For a request: its address, without query and fragment.'),
    to: optional('whole', 'For a message to another thread: id of that thread.'),
    nth: optional('whole', 'Which it is of the messages to there, from 1.'),
  },
  render: {
    thread,
    startMs: required('time', 'When style was begun.'),
    durationMs: required('duration', 'From the begin of style until the picture was handed on.'),
    styleMs: required('duration', 'Time in style.'),
    layoutMs: required('duration', 'Time in layout.'),
    paintMs: required('duration', 'From the end of layout until the picture was handed on.'),
  },
  forced: {
    thread,
    startMs: required('time', 'When the first of them began.'),
    durationMs: required('duration', 'From the begin of the first to the end of the last.'),
    count: required('whole', 'How often layout was forced at this place in this task.'),
    costMs: required('duration', 'What all of them cost together.'),
    styleMs: required('duration', 'The part of the cost that was style.'),
    layoutMs: required('duration', 'The part of the cost that was layout.'),
    read: required('text', 'What was read, such as "offsetWidth".'),
    function: optional('whole', 'Id of the function, as a place, that read.'),
    write: optional(
      'text',
      'What had been written before the last of them, such as "style", or the function that wrote, such as "appendChild".',
    ),
    writer: optional('whole', 'Id of the function, as a place, that wrote.'),
    target: optional('text', 'Short label of what was written to.'),
  },
  redraw: {
    thread,
    startMs: required('time', 'When the changes were counted, before the frame that shows them.'),
    nodes: required('whole', 'Elements and texts added or removed.'),
    attributes: required('whole', 'Attributes written.'),
    texts: required('whole', 'Texts written.'),
    more: optional(
      'whole',
      'Changes that were not looked at, because there were so many in this frame: it is unknown whether they changed a value, or lay in view. Beyond some hundreds at once, the calls that wrote.',
    ),
    changed: required(
      'flag',
      'Whether it had another value afterwards; what was written with the same value has a row of its own.',
    ),
    inView: required('flag', 'Whether any of it lay in the part of the page that is shown.'),
    target: optional('text', 'Short label of the element that holds what changed most.'),
    by: optional('whole', 'Id of the handler that wrote it; each has a row of its own.'),
    function: optional('whole', 'Id of the function that wrote there first, where no handler is given.'),
  },
  memory: {
    thread,
    startMs: required('time', 'When it was read.'),
    usedKb: required('whole', 'Memory in use by script, in units of 1,024 bytes.'),
    limitKb: optional('whole', 'The most it may use.'),
  },
  collection: {
    thread,
    startMs: required('time', 'When it was noticed that memory had been collected.'),
    durationMs: optional('duration', 'How long the thread was stopped for it, where that is told.'),
  },
  hang: {
    thread,
    startMs,
    durationMs: required('duration', 'How long it had lasted when this was written.'),
    ended: required('flag', 'Whether it was over.'),
    stack: optional('whole', 'Id of the stack it hung in.'),
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
    by: optional('whole', 'Id of the handler that asked for it.'),
    function: optional('whole', 'Id of the function, as a place, that asked for it.'),
  },
  state: {
    thread,
    startMs,
    type: required('text', '"visibility", "route", "load", "paint", "shift", "freeze" or "leave".'),
    value: required('text', 'The new state.'),
  },
  sync: {
    startMs: required('time', 'When the display asked for the first of these pictures.'),
    durationMs: required('duration', 'Until it asked for the first one after them.'),
    shown: required('whole', 'Pictures it got in time.'),
    missed: required('whole', 'Pictures it did not get, and showed the one before again.'),
  },
  activity: {
    thread,
    startMs,
    durationMs,
    state: required('text', '"running", "waiting" or "blocked".'),
    on: optional('text', 'What it waited for, such as the name of a lock.'),
  },
  step: {
    startMs,
    durationMs,
    step: required('text', 'What a person did, as docs/steps.md has it, in JSON.'),
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
    longest: optional('text', 'Which piece that was.'),
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
