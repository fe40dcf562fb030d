import { isFunction, pushChildren } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';

/**
 * Looks at a node and at all below it, but not into functions, each before what is below it. Trees are as deep as the
 * code of a stranger is nested, so nothing calls itself here.
 * @param isFound tells whether to stop
 * @param pushParts puts what is to be looked at below a node behind the others
 * @returns whether it was found
 */
export function findOwn(
  node: AnyNode,
  isFound: (node: AnyNode) => boolean,
  pushParts: (node: AnyNode, pending: AnyNode[]) => void = pushChildren,
): boolean {
  const pending = [node];
  for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
    if (isFound(at)) return true;
    if (!isFunction(at)) pushParts(at, pending);
  }
  return false;
}

/** The names a pattern binds (ECMA-262, BoundNames). */
export function namesBoundBy(...patterns: readonly (AnyNode | null)[]): string[] {
  const names: string[] = [];
  const pending = [...patterns];
  for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
    if (at?.type === 'Identifier') names.push(at.name);
    else if (at?.type === 'ObjectPattern') pending.push(...at.properties);
    else if (at?.type === 'ArrayPattern') pending.push(...at.elements);
    else if (at?.type === 'Property') pending.push(at.value);
    else if (at?.type === 'AssignmentPattern') pending.push(at.left);
    else if (at?.type === 'RestElement') pending.push(at.argument);
  }
  return names;
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
