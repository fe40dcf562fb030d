import { isFunction } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import { headOf, weigh } from './weight';
import type { Loop } from './statement-parts';
import { findOwn } from './tree';

/** So much is done at most in a loop that is passed over, in nodes: about 0.1 ms in code that the engine knows. */
const MAX_PASSED_OVER = 100_000;

type For = Extract<AnyNode, { type: 'ForStatement' }>;
/** Comparisons with its end that hold while a counter goes up, and while it goes down. */
const ASCENDING: ReadonlySet<string> = new Set(['<', '<=']);
const DESCENDING: ReadonlySet<string> = new Set(['>', '>=']);

/** Numbers by the names of constants. */
export type Constants = ReadonlyMap<string, number>;

/** Names by which nothing else is meant anywhere in a script, by custom. */
const IS_CONSTANT_NAME = /^[A-Z][A-Z\d_]*$/;

/** The constants at the top of a script whose value is a number, and whose names are written as those of such are. */
export function constantsOf(statements: readonly AnyNode[]): Constants {
  const constants = new Map<string, number>();
  for (const statement of statements) {
    const node = statement.type === 'ExportNamedDeclaration' ? statement.declaration : statement;
    if (node?.type !== 'VariableDeclaration' || node.kind !== 'const') continue;
    for (const { id, init } of node.declarations) {
      const value = init == null ? undefined : numberOf(init, constants);
      if (id.type === 'Identifier' && IS_CONSTANT_NAME.test(id.name) && value !== undefined)
        constants.set(id.name, value);
    }
  }
  return constants;
}

function numberOf(node: AnyNode, constants: Constants): number | undefined {
  if (node.type === 'Literal') return typeof node.value === 'number' ? node.value : undefined;
  return node.type === 'Identifier' ? constants.get(node.name) : undefined;
}

/** By how much a name grows from turn to turn; undefined where that is not one number, given by how it is written. */
function stepOf(update: For['update'], name: string, constants: Constants): number | undefined {
  if (update?.type === 'UpdateExpression' && isNamed(update.argument, name))
    return update.operator === '++' ? 1 : -1;
  if (update?.type !== 'AssignmentExpression' || !isNamed(update.left, name)) return undefined;
  const by = numberOf(update.right, constants);
  if (by === undefined) return undefined;
  return { '+=': by, '-=': -by }[update.operator as string];
}

const isNamed = (node: AnyNode, name: string) => node.type === 'Identifier' && node.name === name;

/** How many turns a loop takes at most, by a counter whose beginning, end and step are numbers; undefined for others. */
function turnsOf(
  { init, test, update }: For,
  constants: Constants,
): { name: string; turns: number } | undefined {
  if (init?.type !== 'VariableDeclaration' || test?.type !== 'BinaryExpression') return undefined;
  const { left, operator, right } = test;
  if (left.type !== 'Identifier') return undefined;
  const counter = init.declarations.find(({ id }) => isNamed(id, left.name));
  const from = counter?.init == null ? undefined : numberOf(counter.init, constants);
  const until = numberOf(right, constants);
  const step = stepOf(update, left.name, constants);
  if (from === undefined || until === undefined || step === undefined) return undefined;
  if (step === 0 || !(step > 0 ? ASCENDING : DESCENDING).has(operator)) return undefined;
  const turns = Math.floor((until - from) / step) + 1;
  return { name: left.name, turns: Math.max(0, turns) };
}

/** What may stand in a loop whose turns are counted beforehand: nothing that calls, waits, leaves it or branches. */
function isPlain(statement: AnyNode, counter: string): boolean {
  if (statement.type !== 'ExpressionStatement' && statement.type !== 'VariableDeclaration') return false;
  return !findOwn(statement, (node) => {
    if (isFunction(node) || node.type === 'ClassExpression') return true;
    if (node.type === 'CallExpression') return !isCallOfMath(node.callee);
    if (node.type === 'AssignmentExpression')
      return isNamed(node.left, counter) || /Pattern$/.test(node.left.type);
    if (node.type === 'UpdateExpression') return isNamed(node.argument, counter);
    return /^(?:New|Import|Tagged|Await|Yield|Spread)/.test(node.type);
  });
}

const isCallOfMath = (callee: AnyNode) =>
  callee.type === 'MemberExpression' && isNamed(callee.object, 'Math');

/** The statements in a loop. */
const statementsIn = ({ body }: Loop): readonly AnyNode[] =>
  body.type === 'BlockStatement' ? body.body : [body];

/**
 * The turns of a loop that is passed over, since it ends soon by how it is written: a look in each turn would make it
 * up to twice as slow, as no engine keeps what it has read of objects when something may be called in between.
 */
export function turnsPassedOver(loop: Loop, constants: Constants): number | undefined {
  if (loop.type !== 'ForStatement') return undefined;
  const counted = turnsOf(loop, constants);
  if (counted === undefined) return undefined;
  const statements = statementsIn(loop);
  if (!statements.every((statement) => isPlain(statement, counted.name))) return undefined;
  const turn = statements.reduce((sum, statement) => sum + weigh(...headOf(statement)).nodes, 1);
  return counted.turns * turn <= MAX_PASSED_OVER ? counted.turns : undefined;
}
