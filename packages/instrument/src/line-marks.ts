import { LINE_INSERTIONS } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import type { Edits } from './edits';
import {
  WITH_EXPRESSION,
  beginOf,
  chainedCalls,
  isLoop,
  partsOf,
  valuePart,
  type Loop,
  type Part,
} from './statement-parts';
import { constantsOf, turnsPassedOver, type Constants } from './short-loops';
import { headOf, weigh, weighCall, type CallsOut } from './weight';

/** A position in a function at which something that takes time begins. */
export interface MarkedPosition {
  /** Number of the function among those of the script, or undefined at its top level. */
  readonly functionNumber: number | undefined;
  /** Offset in the text. */
  readonly start: number;
  /** The position that was marked before it, where nothing else can have been in between. */
  readonly before: MarkedPosition | undefined;
  /** Whether code may be called there that was not rewritten, which takes a look of its own. */
  readonly callsOut: CallsOut;
  /** Whether it is that of the function itself, which is told on entry. */
  readonly isEntry?: boolean;
}

/** A position within as many columns of the one before it, on the same line, is no other. */
const SAME_COLUMNS = 100;
/** A statement of fewer nodes that calls nothing is charged to the one before it. */
const MIN_NODES = 5;
/** So much is done between two looks in a loop, at least, in nodes. */
const MIN_BETWEEN_LOOKS = 6;

const LISTS: ReadonlySet<string> = new Set(['Program', 'BlockStatement', 'StaticBlock', 'SwitchCase']);
const SIMPLE: ReadonlySet<string> = new Set([
  'ExpressionStatement',
  'VariableDeclaration',
  'ReturnStatement',
  'ThrowStatement',
]);
/** What goes on in a list of statements, from one to the next. */
interface ListState {
  latest: MarkedPosition | undefined;
  /** What was done since the latest look, in nodes. */
  done: number;
  /** The loop that it is in, where that is passed over. */
  readonly loop: PassedOver | undefined;
}

/** A loop that is looked at when it has ended. */
interface PassedOver {
  readonly turns: number;
  /** What is done in a turn, in nodes, each with its line. */
  readonly parts: { readonly position: MarkedPosition | undefined; readonly nodes: number }[];
}

const CALLS_NOTHING: CallsOut = { certain: false, names: [] };

/** Where statements stand. */
export interface LineSurroundings {
  /** Number of the function, or undefined at the top level. */
  readonly functionNumber: number | undefined;
  readonly inLoop: boolean;
}

/** Puts lines and looks before the statements of the functions that are recorded in fine mode. */
export class LineMarks {
  readonly #positions: MarkedPosition[] = [];
  /** By position: its number, from 0; none is given to those that are no other than the one before. */
  readonly #numbers = new Map<MarkedPosition, number>();
  /** By the list that is being marked. */
  readonly #lists = new WeakMap<AnyNode, ListState>();
  /** Names of what the script has itself that tells of its calls, or is too small to. */
  readonly #own = new Set<string>();
  /** Loops that are passed over, by what their statements stand in. */
  readonly #passedOver = new WeakMap<AnyNode, PassedOver>();
  #constants: Constants = new Map();

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
    const places = new Map(this.#positions.map((position) => [position, placeOf(position.start)]));
    const marked: MarkedPosition[] = [];
    for (const position of this.#positions) {
      const place = places.get(position)!;
      const before = position.before && places.get(position.before);
      const isSame =
        before !== undefined &&
        before.file === place.file &&
        before.line === place.line &&
        Math.abs(before.column - place.column) < SAME_COLUMNS;
      if (position.isEntry || (isSame && !(this.#callsOut(position) && position.before!.isEntry))) continue;
      this.#numbers.set(position, marked.length);
      marked.push(position);
    }
    return marked;
  }

  /** Notes what stands at the top of the script. */
  begin(statements: readonly AnyNode[]): void {
    this.#constants = constantsOf(statements);
  }

  /** Notes a function or class of the script: what is called by its name is looked at as it is entered. */
  define(name: string): void {
    this.#own.add(name);
  }

  /** Notes that a function begins, whose body is a list of statements. */
  enter(body: AnyNode, functionNumber: number, start: number): void {
    this.#lists.set(body, { latest: this.#entryOf(functionNumber, start), done: 0, loop: undefined });
  }

  #entryOf(functionNumber: number, start: number): MarkedPosition {
    const entry = { functionNumber, start, before: undefined, callsOut: CALLS_NOTHING, isEntry: true };
    this.#positions.push(entry);
    return entry;
  }

  /** Marks a statement, before what stands in it. @returns its position, where it is worth one */
  statement(node: AnyNode, parent: AnyNode, around: LineSurroundings): MarkedPosition | undefined {
    if (node.type === 'ExpressionStatement' && node.directive !== undefined) return undefined;
    const position = LISTS.has(parent.type)
      ? this.#inList(node, parent, around)
      : isBodyOf(node, parent)
        ? this.#alone(node, parent, around)
        : undefined;
    if (isLoop(node) && !this.#passOver(node, parent, around)) this.#turns(node, around);
    return position;
  }

  /** Whether what stands in a statement is taken in turns that are looked at. */
  isLookedAtInTurns(node: AnyNode, isAround: boolean): boolean {
    if (!isLoop(node)) return isAround;
    return !this.#passedOver.has(statementsOf(node));
  }

  /** Marks the expression that a function gives, where that is its body. */
  expression(body: AnyNode, functionNumber: number, start: number): MarkedPosition {
    const around = { functionNumber, inLoop: false };
    const [first, ...others] = body.type === 'SequenceExpression' ? body.expressions : [body];
    const { callsOut } = weigh(first);
    const position = this.#position(first!.start, around, callsOut, this.#entryOf(functionNumber, start));
    this.#mark({ how: 'comma', at: body.start }, position);
    this.#chain([first], around, position);
    for (const other of others) {
      const next = this.#position(other.start, around, weigh(other).callsOut, position);
      this.#mark({ how: 'comma', at: other.start }, next);
    }
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
    if (state === undefined) this.#lists.set(list, (state = this.#stateIn(list)));
    const position = this.#parts(node, around, state, false);
    if (!SIMPLE.has(node.type)) state.latest = undefined;
    return position;
  }

  /** A statement that is the whole body of another. */
  #alone(node: AnyNode, parent: AnyNode, around: LineSurroundings): MarkedPosition | undefined {
    const isElseIf = node.type === 'IfStatement' && parent.type === 'IfStatement';
    if (!isElseIf && !WITH_EXPRESSION.has(node.type)) return undefined;
    return this.#parts(node, around, this.#stateIn(parent), true);
  }

  #stateIn(list: AnyNode): ListState {
    return { latest: undefined, done: 0, loop: this.#passedOver.get(list) };
  }

  /** Marks the parts of a statement one after the other. @returns the position of the first that has one */
  #parts(
    node: AnyNode,
    around: LineSurroundings,
    state: ListState,
    isExpression: boolean,
  ): MarkedPosition | undefined {
    let first: MarkedPosition | undefined;
    partsOf(node, isExpression).forEach((part) => {
      const weight = weigh(...part.nodes);
      const isWorth = weight.calls || weight.callsOut.certain || weight.nodes >= MIN_NODES || isLoop(node);
      if (isWorth && part.how !== undefined) {
        if (around.inLoop && state.done >= MIN_BETWEEN_LOOKS && part.how !== 'value') {
          const { look, lookComma } = LINE_INSERTIONS;
          this.edits.open(part.at, (part.how === 'statement' ? look : lookComma)(state.done));
          state.done = 0;
        }
        const position = this.#position(part.start, around, weight.callsOut, state.latest);
        this.#mark(part, position);
        this.#chain(part.nodes, around, position);
        state.latest = position;
        first ??= position;
      }
      state.done += weight.nodes;
      state.loop?.parts.push({ position: state.latest, nodes: weight.nodes });
    });
    return first;
  }

  /** Marks calls of methods further down a chain, which may stand on lines of their own. */
  #chain(
    nodes: readonly (AnyNode | null | undefined)[],
    around: LineSurroundings,
    statement: MarkedPosition,
  ): void {
    for (const { callee, value } of chainedCalls(nodes)) {
      const position = this.#position(callee.property.start, around, weighCall(callee), statement);
      this.#mark(valuePart(value), position);
    }
  }

  /** Passes over a loop that ends soon, and looks when it has, at the line that was reached. @returns whether it does */
  #passOver(node: Loop, parent: AnyNode, around: LineSurroundings): boolean {
    // Outside of functions, what stands last is the value of the script (ECMA-262, section 16.1.6).
    if (around.functionNumber === undefined || !LISTS.has(parent.type)) return false;
    const turns = turnsPassedOver(node, this.#constants);
    if (turns === undefined) return false;
    const loop: PassedOver = { turns, parts: [] };
    this.#passedOver.set(statementsOf(node), loop);
    this.edits.close(node.end, (firstId) => this.#lookBehind(loop, firstId));
    return true;
  }

  #lookBehind({ turns, parts }: PassedOver, firstId: number): string {
    const lines: number[] = [];
    let nodes = 0;
    for (const part of parts) {
      nodes += part.nodes;
      const id = part.position && this.idOfPosition(part.position, firstId);
      if (id === undefined) continue;
      if (lines.at(-2) === id) lines.push(lines.pop()! + part.nodes);
      else lines.push(id, part.nodes);
    }
    return lines.length === 0 ? '' : LINE_INSERTIONS.lookBehind(nodes * turns, lines.join());
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
      this.#mark({ how: 'comma', at: test.start }, this.#position(test.start, around, head.callsOut));
  }

  #callsOut({ callsOut: { certain, names } }: MarkedPosition): boolean {
    return certain || names.some((name) => !this.#own.has(name));
  }

  #position(
    start: number,
    { functionNumber }: LineSurroundings,
    callsOut: CallsOut,
    before: MarkedPosition | undefined = undefined,
  ): MarkedPosition {
    const position = { functionNumber, start, before, callsOut };
    this.#positions.push(position);
    return position;
  }

  #mark({ how, at, end }: Pick<Part, 'how' | 'at' | 'end'>, position: MarkedPosition): void {
    const isTop = position.functionNumber === undefined;
    const pieces = LINE_INSERTIONS;
    const isGone = () => !this.#numbers.has(position) || (isTop && this.isTopLevelOpen());
    this.edits.open(at, (firstId) => {
      if (isGone()) return '';
      const id = this.idOf(this.#numbers.get(position)!, firstId);
      const callsOut = this.#callsOut(position);
      if (how === 'value') {
        const open = callsOut ? pieces.callValueOpen : pieces.valueOpen;
        const openTop = callsOut ? pieces.topCallValueOpen : pieces.topValueOpen;
        return (isTop ? openTop : open)(id);
      }
      if (how === 'comma')
        return (callsOut ? pieces.callComma(id) : '') + (isTop ? pieces.topLineComma : pieces.lineComma)(id);
      return (callsOut ? pieces.call(id) : '') + (isTop ? pieces.topLine : pieces.line)(id);
    });
    if (end !== undefined) this.edits.close(end, () => (isGone() ? '' : pieces.valueClose()));
  }
}

/** The node that the statements of a loop stand in. */
const statementsOf = (loop: Loop): AnyNode => (loop.body.type === 'BlockStatement' ? loop.body : loop);

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
