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

const LEAVES: ReadonlySet<string> = new Set([
  'Identifier',
  'PrivateIdentifier',
  'Literal',
  'ThisExpression',
  'Super',
  'TemplateElement',
  'EmptyStatement',
  'DebuggerStatement',
]);

/** Whether a node is one of the many that have none below them. */
export function isLeaf({ type }: AnyNode): boolean {
  return LEAVES.has(type);
}

const NO_NODES: AnyNode[] = [];

/** The nodes directly below a node of an ESTree, in the order of its fields. */
export function childrenOf(node: AnyNode): readonly AnyNode[] {
  if (isLeaf(node)) return NO_NODES;
  const children: AnyNode[] = [];
  const fields = node as unknown as Record<string, unknown>;
  for (const name in fields) {
    const value = fields[name];
    if (typeof value !== 'object' || value === null || name === 'range') continue;
    if (Array.isArray(value)) {
      for (const item of value as unknown[]) if (isNode(item)) children.push(item);
    } else if (isNode(value)) children.push(value);
  }
  return children;
}
