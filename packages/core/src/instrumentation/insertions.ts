/**
 * What rewriting puts into a script, and how it is taken out again. Every piece inserted is one of the shapes below and
 * holds a name no other program uses, so that the text of a rewritten function can be given back as it was.
 */
import {
  COUNTS,
  ENTER,
  ENTER_AGAIN,
  ENTER_FINE,
  LEAVE,
  LEAVE_EXPRESSION,
  LEAVE_ROOT,
  LEAVE_ROOT_EXPRESSION,
  LEAVE_WAITING,
  LEAVE_WAITING_EXPRESSION,
  LOOK,
  LOOK_AT_CALL,
  LOOK_COUNTDOWN,
  LOOKS_TAKEN,
  NEVER,
  NEVER_ARGUMENT,
  NEVER_OPERAND,
  OPEN_CALLS,
  OPEN_CALLS_LENGTH,
  REGISTER,
  slotOf,
} from './names';

/**
 * How closely rewritten scripts tell of themselves: every call with its times ("exact"), positions and counts for samples
 * ("fine"), or these with entries that can be taken as exact calls while a chosen function runs ("closer").
 */
export type RewritingMode = 'exact' | 'fine' | 'closer';

/** Local names: whether a function is running or, in fine mode, how deep; and a value that is held for a moment. */
const RUNNING = '__np_s';
const HELD = '__np_t';

/** What an entry into a function costs, in the unit of the looks: what one node of the tree of a script costs. */
export const ENTRY_WEIGHT = 8;

/** In patterns: numbers, separated by commas. */
const LIST = '##';

/** Id of a function, or of a function and of the position in it, separated by a comma; `#` in patterns. */
type Insertion = (id: number | string) => string;

/** Index among the counts of an id; `#` stands for itself. */
const slotIn = (id: number | string) => (typeof id === 'number' ? slotOf(id) : id);

/** Names of the functions that tell of calls, which differ from mode to mode. */
interface Calls {
  readonly enter: string;
  readonly leave: string;
  readonly leaveExpression: string;
}

/** The pieces around functions that can wait, each by the id of the function it is put into. */
function waitingInsertions({ enter, leave, leaveExpression }: Calls) {
  const resume = (id: number | string) =>
    `${RUNNING}=${String(id).includes(',') ? ENTER_AGAIN : enter}(${id})`;
  const ensure = (id: number | string) => `${RUNNING}||(${resume(id)})`;
  return {
    waitingBodyOpen: (id) => `;let ${RUNNING}=${enter}(${id}),${HELD};try{`,
    waitingBodyClose: () => `}finally{${RUNNING}&&${leave}()}`,
    waitingExpressionOpen: (id) => `{let ${RUNNING}=${enter}(${id}),${HELD};try{return(`,
    waitingExpressionClose: () => `)}finally{${RUNNING}&&${leaveExpression}()}}`,
    /** Around `await x`; at the beginning of a statement a parenthesis could belong to the line before. */
    waitOpen: () => `(${HELD}=`,
    statementWaitOpen: () => `${RUNNING},(${HELD}=`,
    waitClose: (id) => `,${resume(id)},${HELD})`,
    /** Around the x of `await x`. */
    awaitedOpen: () => `(${HELD}=(`,
    awaitedClose: () => `),${RUNNING}=${leave}(),${HELD})`,
    /** Around a `yield` without a value. */
    bareYieldOpen: () => `(${RUNNING}=${leave}(),${HELD}=`,
    statementBareYieldOpen: () => `${RUNNING},(${RUNNING}=${leave}(),${HELD}=`,
    handlerOpen: (id) => `${ensure(id)};`,
    /** Around a loop that waits: it may be left by way of a loop around it, too. */
    loopOpen: () => `{${RUNNING};try{`,
    loopClose: (id) => `}finally{${ensure(id)}}}`,
    loopBodyOpen: (id) => `{${resume(id)};try{`,
    loopBodyClose: () => `}finally{${RUNNING}&&=${leave}()}}`,
  } as const satisfies Record<string, Insertion>;
}

const exactInsertions = {
  ...waitingInsertions({ enter: ENTER, leave: LEAVE, leaveExpression: LEAVE_EXPRESSION }),
  bodyOpen: (id) => `;${ENTER}(${id});try{`,
  bodyClose: () => `}finally{${LEAVE}()}`,
  expressionOpen: (id) => `{${ENTER}(${id});try{return(`,
  expressionClose: () => `)}finally{${LEAVE_EXPRESSION}()}}`,
  /** Around the code of a script that does not wait. */
  scriptBegin: (id) => `${ENTER}(${id});`,
  scriptEnd: () => `;${LEAVE}();`,
} as const satisfies Record<string, Insertion>;

const count = (id: number | string) => `++${COUNTS}[${slotIn(id)}]`;
/**
 * Where functions begin. A call, and not written out: functions as long as that would be are compiled later, and put into
 * others less often.
 * @param others further variables
 */
function fineOpen(...others: readonly string[]) {
  const enter = (id: number | string) => `let ${[`${RUNNING}=${ENTER_FINE}(${id})`, ...others].join()};`;
  return {
    bodyOpen: (id) => `;${enter(id)}try{`,
    expressionOpen: (id) => `{${enter(id)}try{return(`,
  } as const satisfies Record<string, Insertion>;
}
/** Written out: a call in a `finally` costs more than it saves. */
const leaveFine = (root: string) => `(${OPEN_CALLS}[0]=${RUNNING}-1)||${root}()`;

const fineInsertions = {
  ...waitingInsertions({
    enter: ENTER_FINE,
    leave: LEAVE_WAITING,
    leaveExpression: LEAVE_WAITING_EXPRESSION,
  }),
  ...fineOpen(),
  bodyClose: () => `}finally{${leaveFine(LEAVE_ROOT)}}`,
  expressionClose: () => `)}finally{${leaveFine(LEAVE_ROOT_EXPRESSION)}}}`,
  scriptBegin: (id) => `${ENTER_FINE}(${id});`,
  scriptEnd: () => `;${LEAVE_WAITING}();`,
} as const satisfies Record<keyof typeof exactInsertions, Insertion>;

const closerInsertions = {
  ...fineInsertions,
  bodyClose: () => `}finally{${LEAVE_WAITING}()}`,
  expressionClose: () => `)}finally{${LEAVE_WAITING_EXPRESSION}()}}`,
} as const satisfies Record<keyof typeof exactInsertions, Insertion>;

export type Insertions = typeof exactInsertions | typeof fineInsertions | typeof closerInsertions;

/** The pieces of each mode. */
export const INSERTIONS: Readonly<Record<RewritingMode, Insertions>> = {
  exact: exactInsertions,
  fine: fineInsertions,
  closer: closerInsertions,
};

const FINE_CALLS = [
  LOOK,
  LOOK_AT_CALL,
  LEAVE_ROOT,
  LEAVE_ROOT_EXPRESSION,
  ENTER_FINE,
  ENTER_AGAIN,
  LEAVE_WAITING,
  LEAVE_WAITING_EXPRESSION,
];

/** A look, where it is due: how much was done since the one before it, in nodes of the tree. */
const lookAfter = (weight: number | string, lines = '') =>
  `${LOOKS_TAKEN}&&(${OPEN_CALLS}[${LOOK_COUNTDOWN}]-=${weight})<0&&${LOOK}(${lines})`;
const lookAtCall = (id: number | string) =>
  `${LOOKS_TAKEN}&&--${COUNTS}[${slotIn(id)}]<0&&${LOOK_AT_CALL}(${id})`;
const line = (id: number | string) => `${OPEN_CALLS}[${RUNNING}]=${id}`;
/** The same outside of any function, where no local variable tells how deep it is. */
const topLine = (id: number | string) => `${OPEN_CALLS}[${OPEN_CALLS}[0]]=${id}`;

/**
 * What tells that a line begins, as an expression.
 * @param isTop whether it is outside of any function
 * @param callsOut whether it may call out of rewritten code, which takes a look
 */
export const lineTold = (id: number | string, isTop: boolean, callsOut: boolean): string =>
  `${callsOut ? `${lookAtCall(id)},` : ''}${(isTop ? topLine : line)(id)}`;

/** What stands before and behind what a line is told of; `told` is what tells. */
export interface LineMark {
  readonly open: (told: string) => string;
  readonly close?: (told: string) => string;
}

/**
 * How lines are told. A statement begins with a name, before which a semicolon may be left out (ECMA-262, section 12.10);
 * an expression with a bracket, before which a word such as `return` may stand without a space.
 */
export const LINE_MARKS = {
  statement: { open: (told) => `${told};` },
  /** Before one of several expressions, or before the only one. */
  comma: { open: (told) => `(${told}),` },
  /** Around an argument or a value that is assigned, before which a comma would be one of a list. */
  value: { open: (told) => `(${told})?`, close: () => `:${NEVER_ARGUMENT}` },
  /** The same around what may stand beside an operator. */
  operand: { open: (told) => `(+(${told})?`, close: () => `:${NEVER_OPERAND})` },
  /** Around a value behind which the line is told: it is held meanwhile. */
  held: { open: () => `(0,${HELD}=`, close: (told) => `,(${told}),${HELD})` },
  /** The same outside of any function. */
  topHeld: { open: () => `[${LOOKS_TAKEN},`, close: (told) => `,(${told})][1]` },
  /** In place of arguments, where there are none. */
  noArguments: { open: (told) => `...(${told},[])` },
} as const satisfies Record<string, LineMark>;

/** Every piece that tells of a line. */
const toldOfLines: readonly Insertion[] = Object.values<LineMark>(LINE_MARKS).flatMap(({ open, close }) =>
  [open, ...(close === undefined ? [] : [close])].flatMap((piece) =>
    [false, true].flatMap((isTop) =>
      [false, true].map((callsOut) => (id: number | string) => piece(lineTold(id, isTop, callsOut))),
    ),
  ),
);

/** Looks that fine mode puts before statements, or before expressions in place of them (`comma`), where they are due. */
export const LOOK_INSERTIONS = {
  look: (weight: number | string) => `${lookAfter(weight)};`,
  lookComma: (weight: number | string) => `(${lookAfter(weight)}),`,
  /** Behind a loop: what was done in it, and by line what is done in each of its turns. */
  lookBehind: (weight: number | string, lines = LIST) => `;${lookAfter(weight, lines)};`,
} as const satisfies Record<string, Insertion>;

/** The same as `bodyOpen` and `expressionOpen` in fine mode, in functions that hold values. */
export const HOLDING_INSERTIONS = fineOpen(HELD);

/** What counts the calls of functions too small to be anything but counted. */
export const COUNT_INSERTIONS = {
  bodyOpen: (id: number | string) => `;${count(id)};`,
  expressionOpen: (id: number | string) => `${count(id)}|1?(`,
  expressionClose: () => `):${NEVER}`,
} as const satisfies Record<string, Insertion>;

/** A number, or two where a function is given with a position in it. */
function patternOf(insertion: Insertion): string {
  return insertion('#')
    .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
    .replaceAll(`${ENTER_FINE}\\(#`, `(?:${ENTER_FINE}\\(#|${ENTER_AGAIN}\\(#,#)`)
    .replaceAll(LIST, '#(?:,#)*')
    .replaceAll('#', '\\d+');
}

let pattern: RegExp | undefined;

/** The text of a function as it was before it was rewritten. */
export function withoutInsertions(text: string): string {
  if (!text.includes('__np_')) return text;
  pattern ??= new RegExp(
    [exactInsertions, fineInsertions, closerInsertions, LOOK_INSERTIONS, HOLDING_INSERTIONS, COUNT_INSERTIONS]
      .flatMap((insertions) => Object.values<Insertion>(insertions))
      .concat(toldOfLines)
      .map(patternOf)
      .sort((a, b) => b.length - a.length)
      .join('|'),
    'g',
  );
  return text.replace(pattern, '');
}

/** The call at the head of a script that tells of it; where there is no recorder, what it calls is made to do nothing. */
export function registerCall(
  mode: RewritingMode,
  firstId: number | string,
  registration: string,
  scope: string,
  functionCount: number | string,
): string {
  const nothing =
    mode === 'exact'
      ? `${scope}.${ENTER}??=${scope}.${LEAVE}=${scope}.${LEAVE_EXPRESSION}=()=>0`
      : `${scope}.${OPEN_CALLS}??=(${FINE_CALLS.map((name) => `${scope}.${name}=`).join('')}()=>0,${scope}.${LOOKS_TAKEN}=false,${scope}.${COUNTS}=new Int32Array(${OPEN_CALLS_LENGTH}))`;
  const told = mode === 'exact' ? registration : `${registration},${functionCount}`;
  return `typeof ${REGISTER}=="function"?${REGISTER}(${firstId},${told}):${nothing};`;
}

/** The text of a whole script as it was before it was rewritten, but for a comment that named its map. */
export function scriptAsWritten(text: string): string {
  for (const mode of ['exact', 'fine'] as const) {
    const { scriptBegin, scriptEnd } = INSERTIONS[mode];
    const call = patternOf((id) => registerCall(mode, id, '@told', '@scope', id))
      .replace('@told', '"(?:[^"\\\\]|\\\\.)*"')
      .replaceAll('@scope', '\\w+');
    const head = new RegExp(`;?${call}(${patternOf(scriptBegin)})?`).exec(text);
    if (head === null) continue;
    const end = head[1] === undefined ? -1 : text.lastIndexOf(scriptEnd());
    const closed = end < 0 ? text : text.slice(0, end) + text.slice(end + scriptEnd().length);
    return withoutInsertions(closed.replace(head[0], ''));
  }
  return text;
}

const IDS = new RegExp(
  [
    `(?<call>\\b(?:${[ENTER, ENTER_FINE, ENTER_AGAIN, LOOK_AT_CALL, REGISTER].join('|')})\\()(?<id>\\d+)(?:,(?<position>\\d+)(?=\\)))?(?=[),])`,
    `(?<line>\\b${OPEN_CALLS}\\[(?:${RUNNING}|${OPEN_CALLS}\\[0\\])\\]=)(?<lineId>\\d+)`,
    `(?<look>\\b${LOOK}\\()(?<lines>\\d+(?:,\\d+)+)(?=\\))`,
    `(?<count>\\b${COUNTS}\\[)(?<slot>\\d+)(?=\\])`,
  ].join('|'),
  'g',
);

/** Rewritten code with other ids. @param from the first id of the script, which becomes `to` */
export function withIdsFrom(code: string, from: number, to: number): string {
  if (from === to) return code;
  const moved = (id: string) => Number(id) - from + to;
  return code.replace(IDS, (...found) => {
    const {
      call,
      id,
      position,
      line,
      lineId,
      look,
      lines,
      count: counts,
      slot,
    } = found.at(-1) as Record<string, string>;
    if (call !== undefined)
      return `${call}${moved(id!)}${position === undefined ? '' : `,${moved(position)}`}`;
    if (line !== undefined) return `${line}${moved(lineId!)}`;
    if (look !== undefined)
      return `${look}${lines!
        .split(',')
        .map((part, at) => (at % 2 === 0 ? moved(part) : part))
        .join()}`;
    return `${counts}${slotOf(Number(slot) - slotOf(from) + slotOf(to))}`;
  });
}
