import type { AnyNode } from 'acorn';
import { childrenOf, hasDirective, isFunction, type FunctionNode } from './tree';

/** A function of fewer nodes, without loop and without call, takes less time than recording it would. */
const FEW_NODES = 30;

const TAKES_TIME = new Set([
  'ForStatement',
  'ForInStatement',
  'ForOfStatement',
  'WhileStatement',
  'DoWhileStatement',
  'CallExpression',
  'NewExpression',
  'TaggedTemplateExpression',
  'ImportExpression',
  'AwaitExpression',
  'YieldExpression',
  'SpreadElement',
  'ClassDeclaration',
  'ClassExpression',
]);

/** Counts nodes of a function's own code up to the limit; Infinity when something in it can take long. */
function weigh(node: AnyNode, limit: number): number {
  if (TAKES_TIME.has(node.type)) return Infinity;
  let weight = 1;
  for (const child of childrenOf(node)) {
    weight += isFunction(child) ? 1 : weigh(child, limit - weight);
    if (weight > limit) break;
  }
  return weight;
}

/** Whether a name's call stands where its value is the function's own, as the last thing the function does. */
function returnsCallOf(node: AnyNode, name: string): boolean {
  switch (node.type) {
    case 'CallExpression':
      return node.callee.type === 'Identifier' && node.callee.name === name;
    case 'ConditionalExpression':
      return returnsCallOf(node.consequent, name) || returnsCallOf(node.alternate, name);
    case 'LogicalExpression':
      return returnsCallOf(node.right, name);
    case 'SequenceExpression':
      return returnsCallOf(node.expressions.at(-1)!, name);
    default:
      return false;
  }
}

function hasTailCall(node: AnyNode, name: string): boolean {
  if (node.type === 'ReturnStatement') return node.argument != null && returnsCallOf(node.argument, name);
  for (const child of childrenOf(node)) if (!isFunction(child) && hasTailCall(child, name)) return true;
  return false;
}

function hasUsing(node: AnyNode): boolean {
  if (node.type === 'VariableDeclaration' && (node.kind as string) === 'await using') return true;
  for (const child of childrenOf(node)) if (!isFunction(child) && hasUsing(child)) return true;
  return false;
}

/**
 * Whether a function is to be recorded. Left alone, and charged to their callers, are small ones; those that
 * call themselves in tail position in strict code, as an engine with proper tail calls (ECMA-262, section
 * 15.10) could otherwise run out of stack; and those that wait at the end of a block, unseen.
 */
export function isWorthRecording(node: FunctionNode, strict: boolean): boolean {
  const waits = node.async === true || node.generator === true;
  if (!waits && weigh(node.body, FEW_NODES) <= FEW_NODES) return false;
  if (waits) return !hasUsing(node.body);
  return !(strict && node.id != null && hasTailCall(node.body, node.id.name));
}

/** Whether a function's body makes its code strict. */
export function makesStrict(node: FunctionNode): boolean {
  return node.body.type === 'BlockStatement' && hasDirective(node.body.body, 'use strict');
}

/** Whether a function is compiled by rules of its own (asm.js), under which nothing may be added. */
export function hasOwnRules(node: FunctionNode): boolean {
  return node.body.type === 'BlockStatement' && hasDirective(node.body.body, 'use asm');
}
