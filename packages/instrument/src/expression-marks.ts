import { isFunction, pushChildren, type LINE_MARKS } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import { eitherOf, type Latest, type LinePositions, type MarkedPosition } from './line-positions';
import { findOwn } from './tree';
import { callsOutBy, forcesLayout, makesCall, setsSlowly } from './weight';

/** What is put around a node to tell the line of a call. */
export interface ExpressionMark {
  readonly how: Exclude<keyof typeof LINE_MARKS, 'statement' | 'topHeld'>;
  readonly position: MarkedPosition;
}

/** What was found in the expressions of a statement. */
export interface ExpressionMarks {
  /** By node: what is put around it, the outermost first. */
  readonly marks: ReadonlyMap<AnyNode, readonly ExpressionMark[]>;
  /** Nodes that have a position of their own. */
  readonly told: ReadonlySet<AnyNode>;
  /** What is marked last when all is done. */
  readonly latest: Latest;
}

/** What is known of lines where expressions begin. */
interface Lines {
  readonly positions: LinePositions;
  /** What is marked last before them. */
  readonly latest: Latest;
  /** What is marked as a function goes on that waited in them. */
  readonly resumed: Latest;
}

type Call = Extract<AnyNode, { type: 'CallExpression' | 'NewExpression' }>;

const isCall = (node: AnyNode): node is Call =>
  node.type === 'CallExpression' || node.type === 'NewExpression';
const calls = (node: AnyNode): boolean => findOwn(node, makesCall);

/**
 * Finds the calls in expressions, in the order in which they run, and where the line of each can be told before it runs:
 * around its last argument, which is made right before it, or around the call itself where nothing is called before.
 */
export function marksInExpressions(
  nodes: readonly (AnyNode | null | undefined)[],
  functionNumber: number | undefined,
  { latest, resumed, positions }: Lines,
): ExpressionMarks {
  const walk = new Walk(functionNumber, latest, resumed, positions);
  walk.all(nodes.filter((node) => node != null));
  return walk;
}

class Walk implements ExpressionMarks {
  readonly marks = new Map<AnyNode, ExpressionMark[]>();
  readonly told = new Set<AnyNode>();
  /** What is still to be visited or done, the next one last. */
  readonly #pending: (AnyNode | (() => void))[] = [];
  /** What is marked last where the chain that is visited may end. */
  #ends: Latest[] = [];
  /** Nodes that another is a part of, such as `a.b` of `a.b.c`, or that are assigned to. */
  readonly #inner = new Set<AnyNode>();

  constructor(
    private readonly functionNumber: number | undefined,
    public latest: Latest,
    private readonly resumed: Latest,
    private readonly positions: LinePositions,
  ) {}

  all(nodes: readonly AnyNode[]): void {
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
        this.latest = undefined;
        return;
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
        this.#innerOf(node);
        this.#pending.push(() => this.#leave(node));
        pushChildren(node, this.#pending as AnyNode[]);
        if ('optional' in node && node.optional) {
          const first = this.#pending.pop()!;
          this.#pending.push(() => this.#ends.push(this.latest), first);
        }
        return;
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

  /** Notes what a node goes on from. */
  #innerOf(node: AnyNode): void {
    if (node.type === 'MemberExpression') this.#inner.add(node.object);
    else if (isCall(node)) this.#inner.add(node.callee);
    else if (node.type === 'TaggedTemplateExpression') this.#inner.add(node.tag);
  }

  #assignment(node: Extract<AnyNode, { type: 'AssignmentExpression' }>): void {
    const { left, right, operator } = node;
    this.#inner.add(left);
    if (operator === '&&=' || operator === '||=' || operator === '??=') return this.#either(left, right);
    if (setsSlowly(node))
      this.#pending.push(() => {
        this.#tell([node], left.start, this.#around(right));
      });
    this.#pending.push(right);
    if (left.type === 'ObjectPattern' || left.type === 'ArrayPattern') {
      if (calls(left)) this.#pending.push(() => (this.latest = undefined));
    } else this.#pending.push(left);
  }

  /** Visits a node, and then one of others, or perhaps the only one. */
  #either(test: AnyNode, consequent: AnyNode, alternate?: AnyNode): void {
    this.#pending.push(() => {
      const before = this.latest;
      let one: Latest;
      this.#pending.push(
        () => (this.latest = eitherOf(one, this.latest)),
        ...(alternate === undefined ? [] : [alternate]),
        () => {
          one = this.latest;
          this.latest = before;
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
      for (const latest of this.#ends) this.latest = eitherOf(this.latest, latest);
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
    } else this.latest = this.resumed;
  }

  #call(node: Call): void {
    const { callee } = node;
    const isMethod = node.type === 'CallExpression' && callee.type === 'MemberExpression';
    const start = isMethod ? callee.property.start : node.start;
    const spread = node.arguments.filter(({ type }) => type === 'SpreadElement');
    const last = node.arguments.at(-1);
    if (last !== undefined) {
      const value = last.type === 'SpreadElement' ? last.argument : last;
      return this.#tell([node, ...spread], start, this.#around(value));
    }
    this.#tell(
      [node],
      start,
      this.#whole(node, callee) ?? (isMethod ? { node, how: 'noArguments' } : undefined),
    );
  }

  /** Tells the line of something; what can be told nowhere is charged to the line before it. */
  #tell(nodes: readonly AnyNode[], start: number, around: Around | undefined): void {
    if (around === undefined) return;
    const position = this.positions.add(this.functionNumber, start, this.latest, callsOutBy(...nodes));
    const mark: ExpressionMark = { how: around.how, position };
    this.marks.set(around.node, [mark, ...(this.marks.get(around.node) ?? [])]);
    for (const node of nodes) this.told.add(node);
    this.latest = [position];
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
