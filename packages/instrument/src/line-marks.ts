import { LINE_INSERTIONS } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import type { Edits } from './edits';
import { headOf, weigh } from './weight';

/** A position in a function at which something that takes time begins. */
export interface MarkedPosition {
  /** Number of the function among those of the script, or undefined at its top level. */
  readonly functionNumber: number | undefined;
  /** Offset in the text. */
  readonly start: number;
  /** The position that was marked before it, where nothing else can have been in between. */
  readonly before: MarkedPosition | undefined;
}

/** A position within as many columns of the one before it, on the same line, is no other. */
const SAME_COLUMNS = 100;
/** A statement of fewer nodes that calls nothing is charged to the one before it. */
const MIN_NODES = 5;
/** So much is done between two looks in a loop, at least, in nodes. */
const MIN_BETWEEN_LOOKS = 6;

const LISTS: ReadonlySet<string> = new Set(['Program', 'BlockStatement', 'StaticBlock', 'SwitchCase']);
const LOOP_TYPES = [
  'ForStatement',
  'ForInStatement',
  'ForOfStatement',
  'WhileStatement',
  'DoWhileStatement',
] as const;
type Loop = Extract<AnyNode, { type: (typeof LOOP_TYPES)[number] }>;
const LOOPS: ReadonlySet<string> = new Set(LOOP_TYPES);
const isLoop = (node: AnyNode): node is Loop => LOOPS.has(node.type);
const SIMPLE: ReadonlySet<string> = new Set([
  'ExpressionStatement',
  'VariableDeclaration',
  'ReturnStatement',
  'ThrowStatement',
]);
/** Statements that can begin with another expression and a comma. */
const WITH_EXPRESSION: ReadonlySet<string> = new Set([
  'ExpressionStatement',
  'ReturnStatement',
  'ThrowStatement',
]);

/** What goes on in a list of statements, from one to the next. */
interface ListState {
  latest: MarkedPosition | undefined;
  /** What was done since the latest look, in nodes. */
  done: number;
}

/** Where statements stand. */
export interface LineSurroundings {
  /** Number of the function, or undefined at the top level. */
  readonly functionNumber: number | undefined;
  readonly inLoop: boolean;
}

/** Puts lines and looks before the statements of the functions that are recorded in fine mode. */
export class LineMarks {
  readonly positions: MarkedPosition[] = [];
  /** By position: its number, from 0; none is given to those that are no other than the one before. */
  #numbers = new Map<MarkedPosition, number>();
  /** By the list that is being marked. */
  readonly #lists = new WeakMap<AnyNode, ListState>();

  /**
   * @param idOf gives the id of a position by its number, and the id of the first function
   * @param isTopLevelOpen tells, at the end, whether the top level waits, and so has no place among the open calls
   */
  constructor(
    private readonly edits: Edits,
    private readonly idOf: (number: number, firstId: number) => number,
    private readonly isTopLevelOpen: () => boolean,
  ) {}

  /**
   * Settles which positions there are, and numbers them.
   * @param placeOf the original position of an offset
   * @returns those that are marked, in order of their numbers
   */
  settle(
    placeOf: (start: number) => { file: string | undefined; line: number; column: number },
  ): MarkedPosition[] {
    const places = new Map(this.positions.map((position) => [position, placeOf(position.start)]));
    const marked: MarkedPosition[] = [];
    for (const position of this.positions) {
      const place = places.get(position)!;
      const before = position.before && places.get(position.before);
      const isSame =
        before !== undefined &&
        before.file === place.file &&
        before.line === place.line &&
        Math.abs(before.column - place.column) < SAME_COLUMNS;
      if (isSame) continue;
      this.#numbers.set(position, marked.length);
      marked.push(position);
    }
    return marked;
  }

  /** Marks a statement, before what stands in it. @returns its position, where it is worth one */
  statement(node: AnyNode, parent: AnyNode, around: LineSurroundings): MarkedPosition | undefined {
    if (node.type === 'ExpressionStatement' && node.directive !== undefined) return undefined;
    const position = LISTS.has(parent.type)
      ? this.#inList(node, parent, around)
      : isBodyOf(node, parent)
        ? this.#alone(node, parent, around)
        : undefined;
    if (isLoop(node)) this.#turns(node, around);
    return position;
  }

  /** Marks the expression that a function gives, where that is its body. */
  expression(body: AnyNode, functionNumber: number): MarkedPosition {
    const position = this.#position(body.start, { functionNumber, inLoop: false });
    this.#mark(body.start, position, weigh(body).callsOut, true);
    return position;
  }

  /** Id of a position, or of the one before it where it is no other. @param firstId of the functions of the script */
  idOfPosition(position: MarkedPosition, firstId: number): number | undefined {
    let at: MarkedPosition | undefined = position;
    while (at !== undefined && !this.#numbers.has(at)) at = at.before;
    const number = at && this.#numbers.get(at);
    return number === undefined ? undefined : this.idOf(number, firstId);
  }

  #inList(node: AnyNode, list: AnyNode, around: LineSurroundings): MarkedPosition | undefined {
    let state = this.#lists.get(list);
    if (state === undefined) this.#lists.set(list, (state = { latest: undefined, done: 0 }));
    const weight = weigh(...headOf(node));
    let position: MarkedPosition | undefined;
    if (weight.nodes > 0 && (weight.calls || weight.callsOut || weight.nodes >= MIN_NODES)) {
      const isLook = around.inLoop && state.done >= MIN_BETWEEN_LOOKS;
      if (isLook) {
        this.edits.open(node.start, LINE_INSERTIONS.look(state.done));
        state.done = 0;
      }
      position = this.#position(node.start, around, state.latest);
      this.#mark(node.start, position, weight.callsOut, false);
      state.latest = position;
    }
    state.done += weight.nodes;
    if (!SIMPLE.has(node.type)) state.latest = undefined;
    return position;
  }

  /** A statement that is the whole body of another. */
  #alone(node: AnyNode, parent: AnyNode, around: LineSurroundings): MarkedPosition | undefined {
    const isElseIf = node.type === 'IfStatement' && parent.type === 'IfStatement';
    const [expression] = isElseIf || WITH_EXPRESSION.has(node.type) ? headOf(node) : [];
    if (expression == null) return undefined;
    const { callsOut, calls, nodes } = weigh(expression);
    if (!calls && !callsOut && (isElseIf || nodes < MIN_NODES)) return undefined;
    const position = this.#position(isElseIf ? expression.start : node.start, around);
    this.#mark(beginOf(node, expression), position, callsOut, true);
    return position;
  }

  /** A look at each turn of a loop, and the line of its head where that takes time. */
  #turns(node: Loop, around: LineSurroundings): void {
    const { body } = node;
    const test = 'test' in node ? node.test : undefined;
    const head = weigh(test, node.type === 'ForStatement' ? node.update : undefined);
    const turn = head.nodes + lastWeight(body) + 1;
    const isWait = node.type === 'ForOfStatement' && node.await;
    const expression = WITH_EXPRESSION.has(body.type) && !isWait ? headOf(body)[0] : undefined;
    if (body.type === 'BlockStatement') this.edits.open(body.start + 1, LINE_INSERTIONS.look(turn));
    else if (expression != null) this.edits.open(beginOf(body, expression), LINE_INSERTIONS.lookComma(turn));
    else if (test != null) this.edits.open(test.start, LINE_INSERTIONS.lookComma(turn));
    if (test != null && head.calls)
      this.#mark(test.start, this.#position(test.start, around), head.callsOut, true);
  }

  #position(
    start: number,
    { functionNumber }: LineSurroundings,
    before: MarkedPosition | undefined = undefined,
  ): MarkedPosition {
    const position = { functionNumber, start, before };
    this.positions.push(position);
    return position;
  }

  #mark(at: number, position: MarkedPosition, callsOut: boolean, isExpression: boolean): void {
    const isTop = position.functionNumber === undefined;
    const { call, callComma, line, lineComma, topLine, topLineComma } = LINE_INSERTIONS;
    const ofCall = isExpression ? callComma : call;
    const ofLine = isTop ? (isExpression ? topLineComma : topLine) : isExpression ? lineComma : line;
    this.edits.open(at, (firstId) => {
      const number = this.#numbers.get(position);
      if (number === undefined || (isTop && this.isTopLevelOpen())) return '';
      const id = this.idOf(number, firstId);
      return (callsOut ? ofCall(id) : '') + ofLine(id);
    });
  }
}

/** What the last statement of a loop costs, which the look at the next turn accounts for. */
function lastWeight(body: AnyNode): number {
  const last = body.type === 'BlockStatement' ? body.body.at(-1) : body;
  return last === undefined ? 0 : weigh(...headOf(last)).nodes;
}

/** Whether a statement stands as the body of another, where a statement before it would take its place. */
function isBodyOf(node: AnyNode, parent: AnyNode): boolean {
  if (parent.type === 'IfStatement') return parent.consequent === node || parent.alternate === node;
  return isLoop(parent) && parent.body === node;
}

/** Where another expression and a comma can be put before the expression of a statement. */
function beginOf(statement: AnyNode, expression: AnyNode): number {
  return statement.type === 'ExpressionStatement' ? statement.start : expression.start;
}
