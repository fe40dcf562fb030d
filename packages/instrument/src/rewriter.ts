import {
  COUNT_INSERTIONS,
  HOLDING_INSERTIONS,
  INSERTIONS,
  isFunction,
  nested,
  pushChildren,
  siteOf,
  type FunctionNode,
  type FunctionSite,
  type Insertions,
  type RewritingMode,
} from '@nettle-patch/core';
import type { AnyNode, Program } from 'acorn';
import type { Edits, Piece } from './edits';
import { evaluatedBy, type EvaluatedScript } from './evaluated';
import { LineMarks } from './line-marks';
import type { MarkedPosition } from './line-positions';
import { hasOwnRules, isSmall, isWorthRecording, makesStrict } from './instrumentation-filter';
import { directivesOf, hasDirective } from './tree';

/** A function that is recorded, or counted. */
export interface RecordedSite {
  /** Offset at which it begins. */
  readonly start: number;
}

interface Surroundings {
  /** Number of the function around, where it can wait and is recorded. */
  readonly waiting: number | undefined;
  readonly topLevel: boolean;
  readonly strict: boolean;
  /** Number of the function around, where it is recorded. */
  readonly functionNumber: number | undefined;
  readonly inLoop: boolean;
  /** That of the statement around, where it has one. */
  readonly position: MarkedPosition | undefined;
}

const IS_STATEMENT = /Statement$|Declaration$/;

/** What stands in no function that is recorded. */
const OUTSIDE = { waiting: undefined, functionNumber: undefined, inLoop: false, position: undefined };

/** Puts enter and leave, and in fine mode lines and looks, into one parsed script. Outer nodes are visited before inner ones, however deep they are. */
export class Rewriter {
  readonly sites: RecordedSite[] = [];
  /** Whether the script waits outside of any function, so that its end cannot be marked. */
  waitsAtTopLevel = false;
  /** Scripts that this one evaluates. */
  readonly evaluated: EvaluatedScript[] = [];
  /** Where the latest statement that is an expression begins. */
  #statementStart = -1;
  readonly #functions: FunctionSite[] = [];
  /** Nodes still to be visited, the next one last, and beside each what it stands in. */
  readonly #pending: AnyNode[] = [];
  readonly #parents: AnyNode[] = [];
  readonly #surroundings: Surroundings[] = [];

  readonly #insertions: Insertions;
  readonly #lines: LineMarks | undefined;

  constructor(
    private readonly text: string,
    private readonly edits: Edits,
    mode: RewritingMode,
  ) {
    this.#insertions = INSERTIONS[mode];
    if (mode !== 'exact') {
      this.#lines = new LineMarks(
        edits,
        (number, firstId) => firstId + this.sites.length + number,
        () => this.waitsAtTopLevel,
      );
    }
  }

  program(program: Program, isModule: boolean): void {
    const strict = isModule || hasDirective(program.body, 'use strict');
    this.#lines?.begin(program.body);
    this.#visitLater(program, { ...OUTSIDE, topLevel: true, strict });
    for (let node = this.#pending.pop(); node !== undefined; node = this.#pending.pop())
      this.#visit(node, this.#parents.pop()!, this.#surroundings.pop()!);
  }

  /**
   * Settles the positions that are told of, and gives them by the order of their ids, which follow those of the functions.
   * @param placeOf the original position of an offset
   */
  positions(placeOf: Parameters<LineMarks['settle']>[0]): readonly MarkedPosition[] {
    return this.#lines?.settle(placeOf) ?? [];
  }

  /** All functions of the script, recorded or not, in order of their start. */
  functions(): FunctionSite[] {
    return nested(this.#functions);
  }

  /** Has what stands in a node visited before all that waits already, in its order. */
  #visitLater(parent: AnyNode, around: Surroundings): void {
    pushChildren(parent, this.#pending);
    while (this.#parents.length < this.#pending.length) {
      this.#parents.push(parent);
      this.#surroundings.push(around);
    }
  }

  #nodeLater(node: AnyNode, parent: AnyNode, around: Surroundings): void {
    this.#pending.push(node);
    this.#parents.push(parent);
    this.#surroundings.push(around);
  }

  #open(at: number, piece: Piece): void {
    this.edits.open(at, piece);
  }

  #close(at: number, piece: Piece): void {
    this.edits.close(at, piece);
  }

  #visit(node: AnyNode, parent: AnyNode, around: Surroundings): void {
    if (node.type === 'ExpressionStatement') {
      this.#statementStart = node.start;
      const script = evaluatedBy(node);
      if (script !== undefined) this.evaluated.push(script);
    }
    this.#lines?.inExpression(node);
    if (isFunction(node)) {
      const site = siteOf(node, parent);
      this.#functions.push(site);
      this.#function(node, site.name, around);
      return;
    }
    if (node.type === 'ClassDeclaration' && node.id != null) this.#lines?.define(node.id.name);
    if (around.topLevel && isWait(node)) this.waitsAtTopLevel = true;
    const within = this.#marked(node, parent, around);
    if (around.waiting !== undefined) this.#wait(node, parent, around.waiting, within.position);
    this.#visitLater(node, within);
  }

  /** Marks a node, where it is a statement of which lines are told. @returns what those in it stand in */
  #marked(node: AnyNode, parent: AnyNode, around: Surroundings): Surroundings {
    const isRecorded = around.topLevel || around.functionNumber !== undefined;
    if (this.#lines === undefined || !isRecorded || !IS_STATEMENT.test(node.type)) return around;
    const position = this.#lines.statement(node, parent, around) ?? around.position;
    return { ...around, position, inLoop: this.#lines.isLookedAtInTurns(node, around.inLoop) };
  }

  #function(node: FunctionNode, name: string | undefined, around: Surroundings): void {
    if (hasOwnRules(node)) return;
    const strict = around.strict || makesStrict(node);
    const waits = node.async === true || node.generator === true;
    const recorded = isWorthRecording(node, strict, this.text);
    const id = this.sites.length;
    if (recorded) {
      this.sites.push({ start: node.start });
      this.#body(node, id, waits);
    } else if (this.#lines !== undefined && !waits) {
      this.sites.push({ start: node.start });
      this.#count(node, id);
    }
    if (this.#lines !== undefined && name !== undefined && (recorded || isSmall(node.body)))
      this.#lines.define(name);
    const outside: Surroundings = { ...OUTSIDE, topLevel: false, strict };
    const lines = recorded ? this.#lines : undefined;
    const isExpression = node.body.type !== 'BlockStatement';
    const position = isExpression ? lines?.expression(node.body, id, node.start) : undefined;
    if (!isExpression) lines?.enter(node.body, id, node.start);
    this.#nodeLater(node.body, node, {
      ...outside,
      waiting: recorded && waits ? id : undefined,
      functionNumber: recorded ? id : undefined,
      position,
    });
    for (let at = node.params.length - 1; at >= 0; at--) this.#nodeLater(node.params[at]!, node, outside);
  }

  #body(node: FunctionNode, id: number, waits: boolean): void {
    const { body } = node;
    const pieces = this.#insertions;
    if (body.type === 'BlockStatement') {
      const opening = waits ? pieces.waitingBodyOpen : pieces.bodyOpen;
      const closing = waits ? pieces.waitingBodyClose() : pieces.bodyClose();
      const at = beginOfBody(body);
      if (at === body.end - 1)
        return this.#open(
          at,
          of(id, (given) => opening(given) + closing),
        );
      this.#open(at, waits ? of(id, opening) : this.#opening(id, 'bodyOpen'));
      this.#close(body.end - 1, closing);
      return;
    }
    const at = this.#afterArrow(node.params.at(-1)?.end ?? node.start);
    this.#open(at, waits ? of(id, pieces.waitingExpressionOpen) : this.#opening(id, 'expressionOpen'));
    this.#close(node.end, waits ? pieces.waitingExpressionClose() : pieces.expressionClose());
  }

  /** What a function that does not wait begins with. */
  #opening(number: number, name: 'bodyOpen' | 'expressionOpen'): Piece {
    return (firstId) => {
      const pieces = this.#lines?.isHolding(number) === true ? HOLDING_INSERTIONS : this.#insertions;
      return pieces[name](firstId + number);
    };
  }

  /** Has the calls of a function counted, and nothing more. */
  #count(node: FunctionNode, id: number): void {
    const { body } = node;
    if (body.type === 'BlockStatement') {
      this.#open(beginOfBody(body), of(id, COUNT_INSERTIONS.bodyOpen));
      return;
    }
    const at = this.#afterArrow(node.params.at(-1)?.end ?? node.start);
    this.#open(at, of(id, COUNT_INSERTIONS.expressionOpen));
    this.#close(node.end, COUNT_INSERTIONS.expressionClose());
  }

  /** Offset behind the next `=>`, which may stand in no comment. */
  #afterArrow(from: number): number {
    let at = from;
    for (;;) {
      if (this.text.startsWith('/*', at)) at = this.text.indexOf('*/', at) + 2;
      else if (this.text.startsWith('//', at)) at = lineEnd(this.text, at);
      else if (this.text.startsWith('=>', at)) return at + 2;
      else at++;
    }
  }

  #wait(node: AnyNode, parent: AnyNode, number: number, position: MarkedPosition | undefined): void {
    const pieces = this.#insertions;
    /** A piece that goes on with the function where it stood. */
    const on = (insertion: (id: number | string) => string): Piece => {
      if (this.#lines === undefined || position === undefined) return of(number, insertion);
      return (firstId) => {
        const at = this.#lines!.idOfPosition(position, firstId);
        return insertion(at === undefined ? firstId + number : `${firstId + number},${at}`);
      };
    };
    switch (node.type) {
      case 'AwaitExpression':
        return this.#around(node, node.argument, on);
      case 'YieldExpression':
        return this.#around(node, node.argument ?? undefined, on);
      case 'CatchClause':
        return this.#open(node.body.start + 1, on(pieces.handlerOpen));
      case 'TryStatement':
        if (node.finalizer) this.#open(node.finalizer.start + 1, on(pieces.handlerOpen));
        return;
      case 'ForOfStatement':
        if (node.await) this.#loop(node, parent, on);
        return;
      case 'LabeledStatement':
        if (parent.type !== 'LabeledStatement' && isWaitingLoop(node)) this.#loopAround(node, on);
        return;
      default:
      // Others neither wait nor are entered from elsewhere.
    }
  }

  #around(node: AnyNode, awaited: AnyNode | undefined, on: GoingOn): void {
    const pieces = this.#insertions;
    const beginsStatement = node.start === this.#statementStart;
    this.#close(node.end, on(pieces.waitClose));
    if (awaited === undefined) {
      this.#open(node.start, beginsStatement ? pieces.statementBareYieldOpen() : pieces.bareYieldOpen());
    } else {
      this.#open(node.start, beginsStatement ? pieces.statementWaitOpen() : pieces.waitOpen());
      this.#open(awaited.start, pieces.awaitedOpen());
      this.#close(awaited.end, pieces.awaitedClose());
    }
  }

  #loop(node: Extract<AnyNode, { type: 'ForOfStatement' }>, parent: AnyNode, on: GoingOn): void {
    const pieces = this.#insertions;
    if (parent.type !== 'LabeledStatement') this.#loopAround(node, on);
    this.#open(node.right.start, pieces.awaitedOpen());
    this.#close(node.right.end, pieces.awaitedClose());
    this.#open(node.body.start, on(pieces.loopBodyOpen));
    this.#close(node.body.end, pieces.loopBodyClose());
  }

  #loopAround(statement: AnyNode, on: GoingOn): void {
    const pieces = this.#insertions;
    this.#open(statement.start, pieces.loopOpen());
    this.#close(statement.end, on(pieces.loopClose));
  }
}

/** Makes a piece that goes on with a function where it stood. */
type GoingOn = (insertion: (id: number | string) => string) => Piece;

/** Where the statements of a body begin, behind its directives. */
function beginOfBody(body: Extract<FunctionNode['body'], { type: 'BlockStatement' }>): number {
  return directivesOf(body.body).at(-1)?.end ?? body.start + 1;
}

/** A piece that holds the id of a function. @param number of the function, from 0 */
function of(number: number, insertion: (id: number) => string): Piece {
  return (firstId) => insertion(firstId + number);
}

function isWait(node: AnyNode): boolean {
  return (
    node.type === 'AwaitExpression' ||
    (node.type === 'ForOfStatement' && node.await === true) ||
    (node.type === 'VariableDeclaration' && (node.kind as string) === 'await using')
  );
}

/** A label, and perhaps more of them, of a loop that waits; only the outermost label counts. */
function isWaitingLoop(node: AnyNode): boolean {
  let at = node;
  while (at.type === 'LabeledStatement') at = at.body;
  return at.type === 'ForOfStatement' && at.await === true;
}

function lineEnd(text: string, from: number): number {
  const found = /[\n\r\u2028\u2029]/.exec(text.slice(from));
  return found === null ? text.length : from + found.index + 1;
}
