import { LINE_MARKS, LOOK_INSERTIONS, lineTold, type LineMark } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import type { Edits } from './edits';
import { ExpressionMarks } from './expression-marks';
import { LinePositions, type Latest, type MarkedPosition } from './line-positions';
import { WITH_EXPRESSION, beginOf, isLoop, partsOf, type Loop, type Part } from './statement-parts';
import { constantsOf, turnsPassedOver, type Constants } from './short-loops';
import { headOf, weigh } from './weight';

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
  latest: Latest;
  /** What was done since the latest look, in nodes. */
  done: number;
  /** The loop that it is in, where that is passed over. */
  readonly loop: PassedOver | undefined;
}

/** A loop that is looked at when it has ended. */
interface PassedOver {
  readonly turns: number;
  /** What is done in a turn, in nodes, each with its line. */
  readonly parts: { readonly latest: Latest; readonly nodes: number }[];
}

/** What tells of a position, and where that is put. */
interface Mark {
  readonly how: Exclude<keyof typeof LINE_MARKS, 'topHeld'>;
  readonly at: number;
  /** Where what it stands around ends. */
  readonly end?: number;
}

const isMark = (part: Part): part is Part & Mark => part.how !== undefined;

/** Where statements stand. */
export interface LineSurroundings {
  /** Number of the function, or undefined at the top level. */
  readonly functionNumber: number | undefined;
  readonly inLoop: boolean;
}

/** Puts lines and looks before the statements of the functions that are recorded in fine mode. */
export class LineMarks {
  readonly #positions: LinePositions;
  /** By the list that is being marked. */
  readonly #lists = new WeakMap<AnyNode, ListState>();
  readonly #expressions: ExpressionMarks;
  /** Positions in functions whose line is told behind a value, and the numbers of the functions that hold one so. */
  readonly #held: MarkedPosition[] = [];
  readonly #holding = new Set<number>();
  /** Loops that are passed over, by what their statements stand in. */
  readonly #passedOver = new WeakMap<AnyNode, PassedOver>();
  #constants: Constants = new Map();

  /**
   * @param idOf gives the id of a position by its number, and the id of the first function
   * @param isTopLevelOpen tells, at the end, whether the top level waits, and so has no place among the open calls
   */
  constructor(
    private readonly edits: Edits,
    idOf: (number: number, firstId: number) => number,
    private readonly isTopLevelOpen: () => boolean,
  ) {
    this.#positions = new LinePositions(idOf);
    this.#expressions = new ExpressionMarks(this.#positions);
  }

  /** Settles which positions there are. @param placeOf the original position of an offset @returns by their numbers */
  settle(placeOf: Parameters<LinePositions['settle']>[0]): MarkedPosition[] {
    const marked = this.#positions.settle(placeOf);
    for (const position of this.#held) {
      if (this.#positions.isMarked(position)) this.#holding.add(position.functionNumber!);
    }
    return marked;
  }

  /** Notes what stands at the top of the script. */
  begin(statements: readonly AnyNode[]): void {
    this.#constants = constantsOf(statements);
  }

  /** Notes a function or class of the script: what is called by its name is looked at as it is entered. */
  define(name: string): void {
    this.#positions.define(name);
  }

  /** Whether a function holds values while a line is told. Known when all is settled. */
  isHolding(functionNumber: number): boolean {
    return this.#holding.has(functionNumber);
  }

  /** Notes that a function begins, whose body is a list of statements. */
  enter(body: AnyNode, functionNumber: number, start: number): void {
    const latest = [this.#positions.addEntry(functionNumber, start)];
    this.#lists.set(body, { latest, done: 0, loop: undefined });
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
    const state = { latest: [this.#positions.addEntry(functionNumber, start)] };
    const part = (one: AnyNode, at: number, before?: MarkedPosition) =>
      this.#part({ how: 'comma', at, start: one.start, nodes: [one] }, around, state, before);
    const position = part(first!, body.start);
    for (const other of others) part(other, other.start, position);
    return position;
  }

  /** Puts what tells of lines around a node of an expression, before what is put around those in it. */
  inExpression(node: AnyNode): void {
    for (const { how, position } of this.#expressions.around(node))
      this.#mark({ how, at: how === 'noArguments' ? node.end - 1 : node.start, end: node.end }, position);
  }

  /** Id of a position, or of the one before it where it is no other. @param firstId of the functions of the script */
  idOfPosition(position: MarkedPosition, firstId: number): number | undefined {
    return this.#positions.idOfPosition(position, firstId);
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
      if (isWorth && isMark(part)) {
        if (around.inLoop && state.done >= MIN_BETWEEN_LOOKS && part.how !== 'value') {
          const { look, lookComma } = LOOK_INSERTIONS;
          this.edits.open(part.at, (part.how === 'statement' ? look : lookComma)(state.done));
          state.done = 0;
        }
        const position = this.#part(part, around, state, first);
        first ??= position;
      }
      state.done += weight.nodes;
      state.loop?.parts.push({ latest: state.latest, nodes: weight.nodes });
    });
    return first;
  }

  /** Marks a part of a statement, and what is called in it. @param first position of the statement, where it has one */
  #part(
    part: Part & Mark,
    { functionNumber }: LineSurroundings,
    state: Pick<ListState, 'latest'>,
    first?: MarkedPosition,
  ): MarkedPosition {
    const position = this.#positions.add(functionNumber, part.start, state.latest);
    this.#mark(part, position);
    const found = this.#expressions.find(part.nodes, {
      functionNumber,
      latest: [position],
      resumed: [first ?? position],
    });
    position.callsOut = found.callsOut;
    state.latest = found.latest;
    return position;
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
      const id = part.latest && this.idOfPosition(part.latest[0]!, firstId);
      if (id === undefined) continue;
      if (lines.at(-2) === id) lines.push(lines.pop()! + part.nodes);
      else lines.push(id, part.nodes);
    }
    return lines.length === 0 ? '' : LOOK_INSERTIONS.lookBehind(nodes * turns, lines.join());
  }

  /** A look at each turn of a loop, and the line of its head where that takes time. */
  #turns(node: Loop, around: LineSurroundings): void {
    const { body } = node;
    const test = 'test' in node ? node.test : undefined;
    const head = weigh(test, node.type === 'ForStatement' ? node.update : undefined);
    const turn = head.nodes + lastWeight(body) + 1;
    const isWait = node.type === 'ForOfStatement' && node.await;
    const expression = WITH_EXPRESSION.has(body.type) && !isWait ? headOf(body)[0] : undefined;
    if (body.type === 'BlockStatement') this.edits.open(body.start + 1, LOOK_INSERTIONS.look(turn));
    else if (expression != null) this.edits.open(beginOf(body, expression), LOOK_INSERTIONS.lookComma(turn));
    else if (test != null) this.edits.open(test.start, LOOK_INSERTIONS.lookComma(turn));
    if (test != null && head.calls) {
      const position = this.#positions.add(around.functionNumber, test.start, undefined, head.callsOut);
      this.#mark({ how: 'comma', at: test.start }, position);
    }
  }

  #mark({ how, at, end }: Mark, position: MarkedPosition): void {
    const isTop = position.functionNumber === undefined;
    const isGone = () => !this.#positions.isMarked(position) || (isTop && this.isTopLevelOpen());
    const { open, close }: LineMark = LINE_MARKS[how === 'held' && isTop ? 'topHeld' : how];
    const pieceOf = (piece: LineMark['open']) => (firstId: number) => {
      if (isGone()) return '';
      const id = this.#positions.idOfPosition(position, firstId)!;
      return piece(lineTold(id, isTop, this.#positions.callsOut(position)));
    };
    if (how === 'held' && !isTop) this.#held.push(position);
    this.edits.open(at, pieceOf(open));
    if (close !== undefined) this.edits.close(end!, pieceOf(close));
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
