import {
  INSERTIONS,
  isFunction,
  nested,
  pushChildren,
  siteOf,
  type FunctionNode,
  type FunctionSite,
} from '@nettle-patch/core';
import type { AnyNode, Program } from 'acorn';
import type { Edits, Piece } from './edits';
import { evaluatedBy, type EvaluatedScript } from './evaluated';
import { directivesOf, hasDirective } from './tree';
import { hasOwnRules, isWorthRecording, makesStrict } from './instrumentation-filter';

/** A function that is recorded. */
export interface RecordedSite {
  /** Offset at which it begins. */
  readonly start: number;
}

interface Surroundings {
  /** Number of the function around, where it can wait and is recorded. */
  readonly waiting: number | undefined;
  readonly topLevel: boolean;
  readonly strict: boolean;
}

/** Puts enter and leave into one parsed script. Outer nodes are visited before inner ones, however deep they are. */
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

  constructor(
    private readonly text: string,
    private readonly edits: Edits,
  ) {}

  program(program: Program, isModule: boolean): void {
    const strict = isModule || hasDirective(program.body, 'use strict');
    this.#visitLater(program, { waiting: undefined, topLevel: true, strict });
    for (let node = this.#pending.pop(); node !== undefined; node = this.#pending.pop())
      this.#visit(node, this.#parents.pop()!, this.#surroundings.pop()!);
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
    if (isFunction(node)) {
      this.#functions.push(siteOf(node, parent));
      this.#function(node, around);
      return;
    }
    if (around.topLevel && isWait(node)) this.waitsAtTopLevel = true;
    if (around.waiting !== undefined) this.#wait(node, parent, around.waiting);
    this.#visitLater(node, around);
  }

  #function(node: FunctionNode, around: Surroundings): void {
    if (hasOwnRules(node)) return;
    const strict = around.strict || makesStrict(node);
    const waits = node.async === true || node.generator === true;
    const recorded = isWorthRecording(node, strict, this.text);
    const id = this.sites.length;
    if (recorded) {
      this.sites.push({ start: node.start });
      this.#body(node, id, waits);
    }
    const outside = { waiting: undefined, topLevel: false, strict };
    this.#nodeLater(node.body, node, recorded && waits ? { ...outside, waiting: id } : outside);
    for (let at = node.params.length - 1; at >= 0; at--) this.#nodeLater(node.params[at]!, node, outside);
  }

  #body(node: FunctionNode, id: number, waits: boolean): void {
    const { body } = node;
    if (body.type === 'BlockStatement') {
      const at = directivesOf(body.body).at(-1)?.end ?? body.start + 1;
      const opening = waits ? INSERTIONS.waitingBodyOpen : INSERTIONS.bodyOpen;
      const closing = waits ? INSERTIONS.waitingBodyClose() : INSERTIONS.bodyClose();
      if (at === body.end - 1)
        return this.#open(
          at,
          of(id, (given) => opening(given) + closing),
        );
      this.#open(at, of(id, opening));
      this.#close(body.end - 1, closing);
      return;
    }
    const at = this.#afterArrow(node.params.at(-1)?.end ?? node.start);
    this.#open(at, of(id, waits ? INSERTIONS.waitingExpressionOpen : INSERTIONS.expressionOpen));
    this.#close(node.end, waits ? INSERTIONS.waitingExpressionClose() : INSERTIONS.expressionClose());
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

  #wait(node: AnyNode, parent: AnyNode, id: number): void {
    switch (node.type) {
      case 'AwaitExpression':
        return this.#around(node, node.argument, id);
      case 'YieldExpression':
        return this.#around(node, node.argument ?? undefined, id);
      case 'CatchClause':
        return this.#open(node.body.start + 1, of(id, INSERTIONS.handlerOpen));
      case 'TryStatement':
        if (node.finalizer) this.#open(node.finalizer.start + 1, of(id, INSERTIONS.handlerOpen));
        return;
      case 'ForOfStatement':
        if (node.await) this.#loop(node, parent, id);
        return;
      case 'LabeledStatement':
        if (parent.type !== 'LabeledStatement' && isWaitingLoop(node)) this.#loopAround(node, id);
        return;
      default:
      // Others neither wait nor are entered from elsewhere.
    }
  }

  #around(node: AnyNode, awaited: AnyNode | undefined, id: number): void {
    const beginsStatement = node.start === this.#statementStart;
    this.#close(node.end, of(id, INSERTIONS.waitClose));
    if (awaited === undefined) {
      this.#open(
        node.start,
        beginsStatement ? INSERTIONS.statementBareYieldOpen() : INSERTIONS.bareYieldOpen(),
      );
    } else {
      this.#open(node.start, beginsStatement ? INSERTIONS.statementWaitOpen() : INSERTIONS.waitOpen());
      this.#open(awaited.start, INSERTIONS.awaitedOpen());
      this.#close(awaited.end, INSERTIONS.awaitedClose());
    }
  }

  #loop(node: Extract<AnyNode, { type: 'ForOfStatement' }>, parent: AnyNode, id: number): void {
    if (parent.type !== 'LabeledStatement') this.#loopAround(node, id);
    this.#open(node.right.start, INSERTIONS.awaitedOpen());
    this.#close(node.right.end, INSERTIONS.awaitedClose());
    this.#open(node.body.start, of(id, INSERTIONS.loopBodyOpen));
    this.#close(node.body.end, INSERTIONS.loopBodyClose());
  }

  #loopAround(statement: AnyNode, id: number): void {
    this.#open(statement.start, INSERTIONS.loopOpen());
    this.#close(statement.end, of(id, INSERTIONS.loopClose));
  }
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
