import { isFunction, pushChildren } from '@nettle-patch/core';
import type { AnyNode } from 'acorn';
import { isEngineName } from './engine-names';

/** Calls that take next to no time, by the name of the method. */
const QUICK_METHODS: ReadonlySet<string> = new Set([
  'add',
  'at',
  'charAt',
  'charCodeAt',
  'codePointAt',
  'fromCharCode',
  'get',
  'has',
  'hasOwnProperty',
  'is',
  'isArray',
  'isFinite',
  'isInteger',
  'isNaN',
  'next',
  'pop',
  'push',
  'set',
]);

/** Functions of the engine that are called by their bare name and may take long. */
const ENGINE_FUNCTIONS: ReadonlySet<string> = new Set([
  'alert',
  'atob',
  'btoa',
  'confirm',
  'decodeURI',
  'decodeURIComponent',
  'encodeURI',
  'encodeURIComponent',
  'escape',
  'eval',
  'fetch',
  'getComputedStyle',
  'importScripts',
  'postMessage',
  'print',
  'prompt',
  'require',
  'structuredClone',
  'unescape',
]);

/** Properties whose assignment has the engine parse or lay out. */
const SLOW_PROPERTIES: ReadonlySet<string> = new Set([
  'cssText',
  'innerHTML',
  'innerText',
  'outerHTML',
  'outerText',
  'srcdoc',
  'textContent',
]);

/** Properties whose value has the engine lay out what has changed. */
const FORCING_PROPERTIES =
  /^(?:offset(?:Top|Left|Width|Height|Parent)|(?:client|scroll)(?:Top|Left|Width|Height)|innerText)$/;

/** Of `Math`: those that take far longer than a multiplication. */
const SLOW_MATH =
  /^(?:a?(?:cos|sin|tan)h?|atan2|cbrt|exp|expm1|hypot|log|log10|log1p|log2|pow|random|fround)$/;

/** What a call costs beside what it calls, and what some of the engine's cost, in nodes of the tree. */
const CALL_WEIGHT = 6;
const SLOW_MATH_WEIGHT = 24;
const OTHER_CALL_WEIGHT = 16;

const nameOf = (node: AnyNode) => (node.type === 'Identifier' ? node.name : undefined);

/** What is known of a piece of code without running it. */
export interface Weight {
  /** About what it costs, in nodes of the tree; what it calls is left out. */
  readonly nodes: number;
  /** Whether it calls anything. */
  readonly calls: boolean;
  readonly callsOut: CallsOut;
}

/** Whether code may be called that was not rewritten, and that may take long. */
export interface CallsOut {
  readonly certain: boolean;
  /** Names by which something is called that no engine has: where the script itself has it, it was rewritten. */
  readonly names: readonly string[];
}

interface Growing {
  nodes: number;
  calls: boolean;
  readonly callsOut: { certain: boolean; readonly names: string[] };
}

const nothing = (): Growing => ({ nodes: 0, calls: false, callsOut: { certain: false, names: [] } });

/** Notes a call by a name; undefined where it has none. */
function callBy(name: string | undefined, { callsOut }: Growing): void {
  if (name === undefined || isEngineName(name)) callsOut.certain = true;
  else callsOut.names.push(name);
}

const CALLS: ReadonlySet<string> = new Set([
  'CallExpression',
  'NewExpression',
  'ImportExpression',
  'TaggedTemplateExpression',
  'AwaitExpression',
  'YieldExpression',
]);

/** Whether an expression, by itself, calls something or waits for it. */
export const makesCall = ({ type }: AnyNode): boolean => CALLS.has(type);

function addCall(callee: AnyNode, into: Growing): void {
  into.nodes += CALL_WEIGHT;
  if (callee.type === 'MemberExpression') {
    const method = nameOf(callee.property as AnyNode) ?? '';
    if (nameOf(callee.object as AnyNode) === 'Math') {
      if (SLOW_MATH.test(method)) into.nodes += SLOW_MATH_WEIGHT;
    } else if (callee.computed || !QUICK_METHODS.has(method)) {
      callBy(callee.computed ? undefined : method, into);
      into.nodes += OTHER_CALL_WEIGHT;
    }
    return;
  }
  if (ENGINE_FUNCTIONS.has(nameOf(callee) ?? '')) into.callsOut.certain = true;
}

/** Whether reading a property has the engine lay out what has changed. */
export const forcesLayout = (node: AnyNode): boolean =>
  node.type === 'MemberExpression' && FORCING_PROPERTIES.test(nameOf(node.property as AnyNode) ?? '');

/** Whether an assignment has the engine parse or lay out. */
export const setsSlowly = (node: AnyNode): boolean =>
  node.type === 'AssignmentExpression' &&
  node.left.type === 'MemberExpression' &&
  SLOW_PROPERTIES.has(nameOf(node.left.property as AnyNode) ?? '');

/** Adds what a node does by itself, without those below it. */
function addNode(node: AnyNode, into: Growing): void {
  if (makesCall(node)) into.calls = true;
  if (node.type === 'CallExpression') addCall(node.callee, into);
  else if (node.type === 'NewExpression' || node.type === 'ImportExpression') {
    callBy(node.type === 'NewExpression' ? nameOf(node.callee) : undefined, into);
    into.nodes += OTHER_CALL_WEIGHT;
  } else if (node.type === 'TaggedTemplateExpression') addCall(node.tag, into);
  else if (node.type === 'SpreadElement' || forcesLayout(node) || setsSlowly(node))
    into.callsOut.certain = true;
}

/** Whether some nodes, by themselves, may run code that was not rewritten, and that may take long. */
export function callsOutBy(nodes: readonly AnyNode[]): CallsOut {
  const weight = nothing();
  for (const node of nodes) addNode(node, weight);
  return weight.callsOut;
}

/** Weighs some nodes and all below them, but no statements and functions within. */
export function weigh(...nodes: readonly (AnyNode | null | undefined)[]): Weight {
  const weight = nothing();
  const pending = nodes.filter((node) => node != null);
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    weight.nodes++;
    if (isFunction(node)) continue;
    addNode(node, weight);
    pushChildren(node, pending);
  }
  return weight;
}

/** The parts of a statement that run where it stands, without the statements in it. */
export function headOf(node: AnyNode): readonly (AnyNode | null | undefined)[] {
  switch (node.type) {
    case 'IfStatement':
    case 'WhileStatement':
      return [node.test];
    case 'SwitchStatement':
      return [node.discriminant];
    case 'ForStatement':
      return [node.init];
    case 'ForInStatement':
    case 'ForOfStatement':
      return [node.right];
    case 'ReturnStatement':
    case 'ThrowStatement':
      return [node.argument];
    case 'ExpressionStatement':
      return [node.expression];
    case 'ExportNamedDeclaration':
    case 'ExportDefaultDeclaration':
      return [node.declaration as AnyNode];
    case 'VariableDeclaration':
      return node.declarations.map(({ init }) => init);
    case 'ClassDeclaration':
      return [node.superClass, node.body];
    case 'LabeledStatement':
      return headOf(node.body);
    default:
      return [];
  }
}
