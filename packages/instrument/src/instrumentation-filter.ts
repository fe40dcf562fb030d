import { pushChildren, type FunctionNode } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import { isSameInBlock } from './scopes';
import { findOwn, hasDirective } from './tree';

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

/**
 * Whether a function's own code has no more than a few nodes, none of which can take long. What is made once and kept does
 * not count: a function that gives it is called far more often than it makes it.
 */
export function isSmall(body: AnyNode): boolean {
  let nodes = 0;
  return !findOwn(
    body,
    ({ type }) => TAKES_TIME.has(type) || ++nodes > FEW_NODES,
    (node, pending) => {
      const kept = keptOf(node);
      if (kept === undefined) pushChildren(node, pending);
      else pending.push(kept);
    },
  );
}

/** The place of a value that is made only where it is not kept there yet; undefined for what is not written like that. */
function keptOf(node: AnyNode): AnyNode | undefined {
  if (node.type === 'AssignmentExpression')
    return node.operator === '??=' || node.operator === '||=' ? node.left : undefined;
  if (node.type !== 'LogicalExpression' || node.operator === '&&') return undefined;
  const { left, right } = node;
  const isKept =
    right.type === 'AssignmentExpression' && right.operator === '=' && isSamePlace(left, right.left);
  return isKept ? left : undefined;
}

/** Whether two expressions are the same name, or the same property of it or of `this`. */
function isSamePlace(one: AnyNode, other: AnyNode): boolean {
  if (one.type === 'MemberExpression' && other.type === 'MemberExpression')
    return (
      one.computed === false &&
      isSamePlace(one.object, other.object) &&
      isSamePlace(one.property, other.property)
    );
  if (one.type === 'ThisExpression') return other.type === 'ThisExpression';
  const isName = one.type === 'Identifier' || one.type === 'PrivateIdentifier';
  return isName && one.type === other.type && one.name === other.name;
}

/** Whether a name's call stands where its value is the function's own, as the last thing the function does. */
function returnsCallOf(node: AnyNode, name: string): boolean {
  const pending = [node];
  for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
    if (at.type === 'ConditionalExpression') pending.push(at.consequent, at.alternate);
    else if (at.type === 'LogicalExpression') pending.push(at.right);
    else if (at.type === 'SequenceExpression') pending.push(at.expressions.at(-1)!);
    else if (at.type === 'CallExpression' && at.callee.type === 'Identifier' && at.callee.name === name)
      return true;
  }
  return false;
}

/** Whether a text can hold a name at all, written as it is or with escapes. */
const canHold = (text: string, name: string) => text.includes(name) || text.includes('\\u');

function hasTailCall(body: AnyNode, name: string, text: string): boolean {
  if (!canHold(text.slice(body.start, body.end), name)) return false;
  return findOwn(
    body,
    (node) => node.type === 'ReturnStatement' && node.argument != null && returnsCallOf(node.argument, name),
  );
}

function hasUsing(body: AnyNode): boolean {
  return findOwn(
    body,
    (node) => node.type === 'VariableDeclaration' && (node.kind as string) === 'await using',
  );
}

/**
 * Whether a function is to be recorded. Left alone, and charged to their callers, are small ones; those that
 * call themselves in tail position in strict code, as an engine with proper tail calls (ECMA-262, section
 * 15.10) could otherwise run out of stack; those that wait at the end of a block, unseen; and those whose statements would
 * mean something else in the block that recording puts around them.
 * @param text of the whole script
 */
export function isWorthRecording(node: FunctionNode, strict: boolean, text: string): boolean {
  const waits = node.async === true || node.generator === true;
  if (!waits && isSmall(node.body)) return false;
  if (!isSameInBlock(node, strict)) return false;
  if (waits) return !hasUsing(node.body);
  return !(strict && node.id != null && hasTailCall(node.body, node.id.name, text));
}

/** Whether a function's body makes its code strict. */
export function makesStrict(node: FunctionNode): boolean {
  return node.body.type === 'BlockStatement' && hasDirective(node.body.body, 'use strict');
}

/** Whether a function is compiled by rules of its own (asm.js), under which nothing may be added. */
export function hasOwnRules(node: FunctionNode): boolean {
  return node.body.type === 'BlockStatement' && hasDirective(node.body.body, 'use asm');
}
