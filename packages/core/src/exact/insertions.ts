/**
 * What exact mode puts into a script, and how it is taken out again. Every piece inserted is one of the shapes
 * below and holds a name no other program uses, so that the text of a rewritten function can be given back as
 * it was.
 */

/** Global functions a rewritten script calls, which the recorder provides. */
export const ENTER = '__np_e';
export const LEAVE = '__np_x';
/** The same as LEAVE; its other name tells the end of a body that was an expression. */
export const LEAVE_EXPRESSION = '__np_y';
export const REGISTER = '__np_r';

/** Local names in functions that can wait: whether it is running, and a value that is held for a moment. */
const RUNNING = '__np_s';
const HELD = '__np_t';

const resume = (id: number | string) => `${RUNNING}=${ENTER}(${id})`;
const ensure = (id: number | string) => `${RUNNING}||(${resume(id)})`;

type Insertion = (id: number | string) => string;

/** The pieces, each by the id of the function it is put into. */
export const INSERTIONS = {
  bodyOpen: (id) => `;${ENTER}(${id});try{`,
  bodyClose: () => `}finally{${LEAVE}()}`,
  expressionOpen: (id) => `{${ENTER}(${id});try{return(`,
  expressionClose: () => `)}finally{${LEAVE_EXPRESSION}()}}`,
  waitingBodyOpen: (id) => `;let ${RUNNING}=${ENTER}(${id}),${HELD};try{`,
  waitingBodyClose: () => `}finally{${RUNNING}&&${LEAVE}()}`,
  waitingExpressionOpen: (id) => `{let ${RUNNING}=${ENTER}(${id}),${HELD};try{return(`,
  waitingExpressionClose: () => `)}finally{${RUNNING}&&${LEAVE_EXPRESSION}()}}`,
  /** Around `await x`; at the beginning of a statement a parenthesis could belong to the line before. */
  waitOpen: () => `(${HELD}=`,
  statementWaitOpen: () => `${RUNNING},(${HELD}=`,
  waitClose: (id) => `,${resume(id)},${HELD})`,
  /** Around the x of `await x`. */
  awaitedOpen: () => `(${HELD}=(`,
  awaitedClose: () => `),${RUNNING}=${LEAVE}(),${HELD})`,
  /** Around a `yield` without a value. */
  bareYieldOpen: () => `(${RUNNING}=${LEAVE}(),${HELD}=`,
  statementBareYieldOpen: () => `${RUNNING},(${RUNNING}=${LEAVE}(),${HELD}=`,
  handlerOpen: (id) => `${ensure(id)};`,
  /** Around a loop that waits: it may be left by way of a loop around it, too. */
  loopOpen: () => `{${RUNNING};try{`,
  loopClose: (id) => `}finally{${ensure(id)}}}`,
  loopBodyOpen: (id) => `{${resume(id)};try{`,
  loopBodyClose: () => `}finally{${RUNNING}&&=${LEAVE}()}}`,
} as const satisfies Record<string, Insertion>;

function patternOf(insertion: Insertion): string {
  return insertion('#')
    .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
    .replaceAll('#', '\\d+');
}

let pattern: RegExp | undefined;

/** The text of a function as it was before it was rewritten. */
export function withoutInsertions(text: string): string {
  if (!text.includes('__np_')) return text;
  pattern ??= new RegExp(
    Object.values(INSERTIONS as Record<string, Insertion>)
      .map(patternOf)
      .sort((a, b) => b.length - a.length)
      .join('|'),
    'g',
  );
  return text.replace(pattern, '');
}

/** The call at the head of a script that tells of it; where there is no recorder, what it calls is made to do nothing. */
export function registerCall(firstId: number | string, registration: string, scope: string): string {
  const nothing = `${scope}.${ENTER}??=${scope}.${LEAVE}=${scope}.${LEAVE_EXPRESSION}=()=>0`;
  return `typeof ${REGISTER}=="function"?${REGISTER}(${firstId},${registration}):${nothing};`;
}

/** Around the code of a script that does not wait. */
export const scriptBegin: Insertion = (id) => `${ENTER}(${id});`;
export const SCRIPT_END = `;${LEAVE}();`;

/** The text of a whole script as it was before it was rewritten, but for a comment that named its map. */
export function scriptAsWritten(text: string): string {
  const call = patternOf((id) => registerCall(id, '@told', '@scope'))
    .replace('@told', '"(?:[^"\\\\]|\\\\.)*"')
    .replaceAll('@scope', '\\w+');
  const head = new RegExp(`;?${call}(${patternOf(scriptBegin)})?`).exec(text);
  if (head === null) return text;
  const end = head[1] === undefined ? -1 : text.lastIndexOf(SCRIPT_END);
  const closed = end < 0 ? text : text.slice(0, end) + text.slice(end + SCRIPT_END.length);
  return withoutInsertions(closed.replace(head[0], ''));
}
