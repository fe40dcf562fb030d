import type { AnyNode, Node } from 'acorn';

/** A function of any form. */
export type FunctionNode = Extract<
  AnyNode,
  { type: 'FunctionDeclaration' | 'FunctionExpression' | 'ArrowFunctionExpression' }
>;

export function isFunction(node: AnyNode): node is FunctionNode {
  return (
    node.type === 'FunctionExpression' ||
    node.type === 'ArrowFunctionExpression' ||
    node.type === 'FunctionDeclaration'
  );
}

const isNode = (value: unknown): value is AnyNode =>
  typeof value === 'object' && value !== null && typeof (value as Node).type === 'string';

/** The nodes directly below a node of an ESTree, in the order of its fields. */
export function* childrenOf(node: AnyNode): Generator<AnyNode> {
  for (const value of Object.values(node) as unknown[]) {
    if (Array.isArray(value)) {
      for (const item of value as unknown[]) if (isNode(item)) yield item;
    } else if (isNode(value)) {
      yield value;
    }
  }
}

/** Whether a list of statements begins with a directive (ECMA-262, section 11.2.1), such as "use strict". */
export function hasDirective(statements: readonly AnyNode[], directive: string): boolean {
  return directivesOf(statements).some((node) => node.directive === directive);
}

/** The directives at the beginning of a list of statements. */
export function directivesOf(
  statements: readonly AnyNode[],
): Extract<AnyNode, { type: 'ExpressionStatement' }>[] {
  const directives = [];
  for (const node of statements) {
    if (node.type !== 'ExpressionStatement' || node.directive === undefined) break;
    directives.push(node);
  }
  return directives;
}
