import type { AnyNode } from 'acorn';
import { headOf } from './weight';

const LOOP_TYPES = [
  'ForStatement',
  'ForInStatement',
  'ForOfStatement',
  'WhileStatement',
  'DoWhileStatement',
] as const;
/** A statement that takes turns. */
export type Loop = Extract<AnyNode, { type: (typeof LOOP_TYPES)[number] }>;
const LOOPS: ReadonlySet<string> = new Set(LOOP_TYPES);
export const isLoop = (node: AnyNode): node is Loop => LOOPS.has(node.type);

/** Statements that can begin with another expression and a comma. */
export const WITH_EXPRESSION: ReadonlySet<string> = new Set([
  'ExpressionStatement',
  'ReturnStatement',
  'ThrowStatement',
]);

/** A part of a statement that is marked by itself. */
export interface Part {
  /** What is put before it: statements, expressions each with a comma, or the head of a conditional expression. */
  readonly how: 'statement' | 'comma' | 'value' | undefined;
  /** Where that is put. */
  readonly at: number;
  /** Where a conditional expression ends. */
  readonly end?: number;
  /** Where it stands. */
  readonly start: number;
  readonly nodes: readonly (AnyNode | null | undefined)[];
}

/** Values that get their name from where they stand (ECMA-262, IsAnonymousFunctionDefinition). */
const NAMED_BY_PLACE = /^(?:Function|ArrowFunction|Class)Expression$/;

/** The parts of a statement that may stand on different lines: variables, and what a build has joined by commas. */
export function partsOf(node: AnyNode, isExpression: boolean): readonly Part[] {
  const how = isExpression ? 'comma' : 'statement';
  const declaration = node.type === 'ExportNamedDeclaration' ? node.declaration : node;
  if (declaration?.type === 'VariableDeclaration' && !isExpression) {
    return declaration.declarations.map(({ start, init }, index): Part => {
      if (index === 0) return { how, at: node.start, start: node.start, nodes: [init] };
      const isMarked = init != null && !NAMED_BY_PLACE.test(init.type);
      if (!isMarked) return { how: undefined, at: start, start, nodes: [init] };
      return { ...valuePart(init), start, nodes: [init] };
    });
  }
  const heads = headOf(node);
  const [expression] = heads;
  if (!WITH_EXPRESSION.has(node.type) || expression?.type !== 'SequenceExpression') {
    const at = isExpression && expression != null ? beginOf(node, expression) : node.start;
    return [{ how, at, start: node.type === 'IfStatement' ? at : node.start, nodes: heads }];
  }
  return expression.expressions.map((one, index): Part => {
    if (index > 0) return { how: 'comma', at: one.start, start: one.start, nodes: [one] };
    return { how, at: isExpression ? beginOf(node, one) : node.start, start: node.start, nodes: [one] };
  });
}

/** What is put around a value: one of several joined by commas stands in brackets, and may be one more of them. */
export function valuePart({ type, start, end }: AnyNode): Pick<Part, 'how' | 'at' | 'end'> {
  return type === 'SequenceExpression' ? { how: 'comma', at: start } : { how: 'value', at: start, end };
}

/** Where another expression and a comma can be put before the expression of a statement. */
export function beginOf(statement: AnyNode, expression: AnyNode): number {
  return statement.type === 'ExpressionStatement' ? statement.start : expression.start;
}
