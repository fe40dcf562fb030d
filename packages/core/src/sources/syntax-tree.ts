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

/**
 * Puts the nodes directly below a node of an ESTree behind those of a list, the last of them first, so that taking from
 * the end of the list visits a tree in the order of its fields.
 */
export function pushChildren(node: AnyNode, into: AnyNode[]): void {
  if (isLeaf(node)) return;
  const from = into.length;
  const fields = node as unknown as Record<string, unknown>;
  for (const name in fields) {
    const value = fields[name];
    if (typeof value !== 'object' || value === null) continue;
    if (Array.isArray(value)) {
      for (const item of value as unknown[]) if (isNode(item)) into.push(item);
    } else if (isNode(value)) into.push(value);
  }
  for (let low = from, high = into.length - 1; low < high; low++, high--) {
    const node = into[low]!;
    into[low] = into[high]!;
    into[high] = node;
  }
}
