import { isFunction, pushChildren, type LINE_MARKS } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import { eitherOf, type Latest, type LinePositions, type MarkedPosition } from './line-positions';
import { findOwn } from './tree';
import { callsOutBy, forcesLayout, makesCall, setsSlowly, type CallsOut } from './weight';

/** What is put around a node to tell the line of a call. */
export interface ExpressionMark {
  readonly how: Exclude<keyof typeof LINE_MARKS, 'statement' | 'topHeld'>;
  readonly position: MarkedPosition;
}

/** Where expressions begin. */
interface Beginning {
  readonly functionNumber: number | undefined;
  /** What is marked last before them. */
  readonly latest: Latest;
  /** What is marked as a function goes on that waited in them. */
  readonly resumed: Latest;
}

type Call = Extract<AnyNode, { type: 'CallExpression' | 'NewExpression' }>;

const isCall = (node: AnyNode): node is Call =>
  node.type === 'CallExpression' || node.type === 'NewExpression';
const calls = (node: AnyNode): boolean => findOwn(node, makesCall);
const spreadOf = ({ arguments: given }: Call) => given.filter(({ type }) => type === 'SpreadElement');
/** Nodes that nothing is put around. */
const SIMPLE: ReadonlySet<string> = new Set(['Identifier', 'ThisExpression', 'Super', 'Literal']);

/** What a node goes on from. */
function startOf(node: AnyNode): AnyNode | undefined {
  if (node.type === 'MemberExpression') return node.object;
  if (isCall(node)) return node.callee;
  return node.type === 'TaggedTemplateExpression' ? node.tag : undefined;
}

/**
 * Finds the calls in the expressions of a script, in the order in which they run, and where the line of each can be told
 * before it runs: around its last argument, which is made right before it, or around the call itself where nothing is
 * called before.
 */
export class ExpressionMarks {
  /** By node: what is put around it, the outermost first. */
  readonly #marks = new Map<AnyNode, readonly ExpressionMark[]>();
  /** What is still to be visited or done, the next one last. */
  readonly #pending: (AnyNode | (() => void))[] = [];
  /** What is marked last where the chain that is visited may end. */
  #ends: Latest[] = [];
  /** Nodes that another is a part of, such as `a()` of `a().b`, or that are assigned to. */
  readonly #inner = new Set<AnyNode>();
  #functionNumber: number | undefined;
  #latest: Latest;
  #resumed: Latest;
  /** What was visited and has no position of its own. */
  #rest: AnyNode[] = [];

  constructor(private readonly positions: LinePositions) {}

  /** What is put around a node. */
  around(node: AnyNode): readonly ExpressionMark[] {
    return this.#marks.get(node) ?? [];
  }

  /** @returns what is marked last when all is done, and what is called out where no position of its own tells of it */
  find(
    nodes: readonly (AnyNode | null | undefined)[],
    { functionNumber, latest, resumed }: Beginning,
  ): { readonly latest: Latest; readonly callsOut: CallsOut } {
    this.#functionNumber = functionNumber;
    this.#latest = latest;
    this.#resumed = resumed;
    this.#rest = [];
    this.#all(nodes.filter((node) => node != null));
    return { latest: this.#latest, callsOut: callsOutBy(this.#rest) };
  }

  #all(nodes: readonly AnyNode[]): void {
    this.#pending.push(...nodes.toReversed());
    for (let next = this.#pending.pop(); next !== undefined; next = this.#pending.pop()) {
      if (typeof next === 'function') next();
      else this.#visit(next);
    }
  }

  #visit(node: AnyNode): void {
    if (isFunction(node)) return;
    switch (node.type) {
      case 'ClassBody':
        // What stands in it may be statements, which have lines of their own.
        this.#latest = undefined;
        return this.#leaveOut(node);
      case 'ConditionalExpression':
        return this.#either(node.test, node.consequent, node.alternate);
      case 'LogicalExpression':
        return this.#either(node.left, node.right);
      case 'ChainExpression':
        return this.#chain(node);
      case 'AssignmentExpression':
        return this.#assignment(node);
      case 'MemberExpression':
      case 'CallExpression':
      case 'NewExpression':
      case 'TaggedTemplateExpression':
      case 'ImportExpression':
      case 'AwaitExpression':
      case 'YieldExpression':
        return this.#last(node);
      case 'SpreadElement':
        // Those of a call are part of it.
        if (!this.#inner.has(node)) this.#rest.push(node);
        break;
      case 'UpdateExpression':
        this.#inner.add(node.argument);
        break;
      case 'UnaryExpression':
        if (node.operator === 'delete') this.#inner.add(node.argument);
        break;
      default:
    }
    pushChildren(node, this.#pending as AnyNode[]);
  }

  /** Visits what is done when all that stands in it is. */
  #last(node: AnyNode): void {
    const from = startOf(node);
    if (from !== undefined && !SIMPLE.has(from.type)) this.#inner.add(from);
    if (node.type !== 'MemberExpression' || forcesLayout(node)) this.#pending.push(() => this.#leave(node));
    if (isCall(node)) for (const spread of spreadOf(node)) this.#inner.add(spread);
    pushChildren(node, this.#pending as AnyNode[]);
    if ('optional' in node && node.optional) {
      const first = this.#pending.pop()!;
      this.#pending.push(() => this.#ends.push(this.#latest), first);
    }
  }

  /** Leaves out a node and all below it. */
  #leaveOut(node: AnyNode): void {
    findOwn(node, (below) => {
      this.#rest.push(below);
      return false;
    });
  }

  #assignment(node: Extract<AnyNode, { type: 'AssignmentExpression' }>): void {
    const { left, right, operator } = node;
    this.#inner.add(left);
    if (operator === '&&=' || operator === '||=' || operator === '??=') {
      this.#rest.push(node);
      return this.#either(left, right);
    }
    if (setsSlowly(node))
      this.#pending.push(() => {
        this.#tell([node], left.start, this.#around(right));
      });
    this.#pending.push(right);
    if (left.type === 'ObjectPattern' || left.type === 'ArrayPattern') {
      this.#leaveOut(left);
      if (calls(left)) this.#pending.push(() => (this.#latest = undefined));
    } else this.#pending.push(left);
  }

  /** Visits a node, and then one of others, or perhaps the only one. */
  #either(test: AnyNode, consequent: AnyNode, alternate?: AnyNode): void {
    this.#pending.push(() => {
      const before = this.#latest;
      let one: Latest;
      this.#pending.push(
        () => (this.#latest = eitherOf(one, this.#latest)),
        ...(alternate === undefined ? [] : [alternate]),
        () => {
          one = this.#latest;
          this.#latest = before;
        },
        consequent,
      );
    }, test);
  }

  /** Visits a chain, which may end behind what each of its `?.` goes on from. */
  #chain(node: Extract<AnyNode, { type: 'ChainExpression' }>): void {
    const around = this.#ends;
    this.#ends = [];
    this.#pending.push(() => {
      for (const latest of this.#ends) this.#latest = eitherOf(this.#latest, latest);
      this.#ends = around;
    }, node.expression);
  }

  #leave(node: AnyNode): void {
    if (isCall(node)) this.#call(node);
    else if (node.type === 'ImportExpression') this.#tell([node], node.start, this.#around(node.source));
    else if (node.type === 'TaggedTemplateExpression') {
      const last = node.quasi.expressions.at(-1);
      const around = last === undefined ? this.#whole(node, node.tag) : this.#around(last);
      this.#tell([node], node.tag.start, around);
    } else if (node.type === 'MemberExpression') {
      if (forcesLayout(node)) this.#tell([node], node.property.start, this.#whole(node, node.object));
    } else this.#latest = this.#resumed;
  }

  #call(node: Call): void {
    const { callee } = node;
    const isMethod = node.type === 'CallExpression' && callee.type === 'MemberExpression';
    const start = isMethod ? callee.property.start : node.start;
    const last = node.arguments.at(-1);
    if (last !== undefined) {
      const value = last.type === 'SpreadElement' ? last.argument : last;
      return this.#tell([node, ...spreadOf(node)], start, this.#around(value));
    }
    this.#tell(
      [node],
      start,
      this.#whole(node, callee) ?? (isMethod ? { node, how: 'noArguments' } : undefined),
    );
  }

  /** Tells the line of something; what can be told nowhere is charged to the line before it. */
  #tell(nodes: readonly AnyNode[], start: number, around: Around | undefined): void {
    if (around === undefined) return void this.#rest.push(...nodes);
    const position = this.positions.add(this.#functionNumber, start, this.#latest, callsOutBy(nodes));
    const mark: ExpressionMark = { how: around.how, position };
    this.#marks.set(around.node, [mark, ...this.around(around.node)]);
    this.#latest = [position];
  }

  /** Around a value that is made right before. */
  #around(value: AnyNode): Around | undefined {
    if (!calls(value)) return { node: value, how: value.type === 'SequenceExpression' ? 'comma' : 'value' };
    // A class that is held would get a name from where it is held (ECMA-262, IsAnonymousFunctionDefinition).
    let last = value;
    while (last.type === 'SequenceExpression') last = last.expressions.at(-1)!;
    if (isFunction(last)) return { node: last, how: 'operand' };
    return last.type === 'ClassExpression' ? undefined : { node: last, how: 'held' };
  }

  /** Around all of it, where nothing is called in the part that comes first and it is no part of another. */
  #whole(node: AnyNode, first: AnyNode): Around | undefined {
    return this.#inner.has(node) || calls(first) ? undefined : { node, how: 'operand' };
  }
}

interface Around {
  readonly node: AnyNode;
  readonly how: ExpressionMark['how'];
}
