import type { FunctionNode } from '@nettle-patch/core';
import type { AnyNode, Program } from 'acorn';
import { findOwn, namesBoundBy } from './tree';

type FunctionDeclaration = Extract<AnyNode, { type: 'FunctionDeclaration' }>;

/** The functions declared by statements themselves, labelled or not, and not by blocks in them. */
function functionsDeclaredBy(statements: readonly AnyNode[]): FunctionDeclaration[] {
  const declared: FunctionDeclaration[] = [];
  for (let at of statements) {
    while (at.type === 'LabeledStatement') at = at.body;
    if (at.type === 'FunctionDeclaration') declared.push(at);
  }
  return declared;
}

const isDirectEval = (node: AnyNode) =>
  node.type === 'CallExpression' && node.callee.type === 'Identifier' && node.callee.name === 'eval';

/**
 * Whether the statements of a function mean the same in a block. A function that is declared in a block belongs to the
 * block, as `let` does (ECMA-262, sections 14.2 and B.3.2): a variable, a parameter, another function or what `eval`
 * declares may then not have its name, or is no longer the same.
 */
export function isSameInBlock({ body, params }: FunctionNode, strict: boolean): boolean {
  if (body.type !== 'BlockStatement') return true;
  const declared = functionsDeclaredBy(body.body);
  if (declared.length === 0) return true;
  const names = new Set(declared.flatMap(({ id }) => namesBoundBy(id)));
  if (names.size < declared.length || names.has('arguments')) return false;
  const own = new Set<AnyNode>(declared);
  const isOneOf = (found: readonly string[]) => found.some((name) => names.has(name));
  if (isOneOf(namesBoundBy(...params))) return false;
  return !findOwn(body, (node) => {
    if (node.type === 'VariableDeclaration' && node.kind === 'var')
      return isOneOf(namesBoundBy(...node.declarations.map(({ id }) => id)));
    if (strict) return false;
    if (node.type === 'FunctionDeclaration') return !own.has(node) && isOneOf(namesBoundBy(node.id));
    return isDirectEval(node);
  });
}

/** Names that a script or module declares at its top level, so that they mean something else in it than elsewhere. */
export function topLevelNames(program: Program): Set<string> {
  const names = new Set<string>();
  findOwn(program, (node) => {
    const bound =
      node.type === 'VariableDeclaration'
        ? namesBoundBy(...node.declarations.map(({ id }) => id))
        : node.type === 'ClassDeclaration' || node.type === 'FunctionDeclaration'
          ? namesBoundBy(node.id)
          : 'local' in node
            ? namesBoundBy(node.local as AnyNode)
            : [];
    for (const name of bound) names.add(name);
    return false;
  });
  return names;
}
