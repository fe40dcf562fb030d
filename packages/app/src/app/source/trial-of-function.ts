import { tsxLanguage, typescriptLanguage } from '@codemirror/lang-javascript';
import type { Trial } from '@nettle-patch/core';
import type { SyntaxNode } from '@lezer/common';

/** A place in a file whose text is known. */
export interface FilePlace {
  readonly file: string;
  readonly text: string;
  /** From 1. */
  readonly line: number;
}

/** Longer texts are not parsed for this: it would take too long at a time. */
const MAX_TEXT = 400_000;
const FUNCTIONS = new Set([
  'FunctionDeclaration',
  'FunctionExpression',
  'ArrowFunction',
  'MethodDeclaration',
]);

/** A function as a declaration by a name. */
interface Declared {
  readonly name: string;
  readonly code: string;
}

/**
 * A trial that begins with the function at a line: what it needs of its file as set-up, and the function itself twice, one
 * of them to be changed. What it is called with is left to the person.
 * @returns undefined where there is no function
 */
export function trialOfFunction({ file, text, line }: FilePlace): Trial | undefined {
  if (text.length > MAX_TEXT) return undefined;
  const { parser } = /[jt]sx$/.test(file) ? tsxLanguage : typescriptLanguage;
  const root = parser.parse(text).topNode;
  const found = functionAt(root, text, line);
  if (found === undefined) return undefined;
  const textOf = ({ from, to }: SyntaxNode) => text.slice(from, to);
  const { name, code } = declared(found, textOf);
  const parameters = found.getChild('ParamList');
  const setUp = [
    `// What ${name} is called with${parameters === null ? '' : `: ${textOf(parameters)}`}`,
    'const given = [];',
    '',
    `// What it needs of ${file}`,
    ...needsOf(root, found, textOf),
  ];
  const call = `${code}\n\nreturn ${name}(...given);`;
  return {
    name: `Ways of ${name}`.slice(0, 120),
    place: 'worker',
    setUp: setUp.join('\n'),
    alternatives: [
      { name: 'As it is', code: call },
      { name: 'Another way', code: call },
    ],
  };
}

/** The function with a name that begins on a line, else the innermost one with a name around it, else any. */
function functionAt(root: SyntaxNode, text: string, line: number): SyntaxNode | undefined {
  const lines = text.split('\n');
  const from = lines.slice(0, line - 1).reduce((sum, one) => sum + one.length + 1, 0);
  const to = from + (lines[line - 1]?.length ?? 0);
  const found: SyntaxNode[] = [];
  root.cursor().iterate((node) => {
    if (node.from > to || node.to < from) return false;
    if (FUNCTIONS.has(node.name)) found.push(node.node);
    return undefined;
  });
  const named = found.filter(isNamed);
  return named.find((one) => one.from >= from) ?? named.at(-1) ?? found.at(-1);
}

function isNamed({ name, parent }: SyntaxNode): boolean {
  const isDeclared = name === 'FunctionDeclaration' || name === 'MethodDeclaration';
  return isDeclared || parent?.name === 'VariableDeclaration';
}

function declared(node: SyntaxNode, textOf: (node: SyntaxNode) => string): Declared {
  const own = node.getChild('VariableDefinition') ?? node.getChild('PropertyDefinition');
  if (node.name === 'FunctionDeclaration')
    return { name: own === null ? 'work' : textOf(own), code: textOf(node) };
  if (node.name === 'MethodDeclaration') {
    const name = plainName(own === null ? 'work' : textOf(own));
    const head = own === null ? '' : textOf(node).slice(0, own.from - node.from);
    const body = textOf(node).slice((own?.to ?? node.from) - node.from);
    return { name, code: `${/\basync\b/.test(head) ? 'async ' : ''}function ${name}${body}` };
  }
  const variable =
    node.parent?.name === 'VariableDeclaration' ? node.parent.getChild('VariableDefinition') : null;
  const name = variable === null ? 'work' : textOf(variable);
  return { name, code: `const ${name} = ${textOf(node)};` };
}

const plainName = (name: string) => (/^[\p{L}$_][\p{L}\p{N}$_]*$/u.test(name) ? name : 'work');

/** What stands at the top of the file that a function uses, and what that uses, in order; imports as comments. */
function needsOf(root: SyntaxNode, found: SyntaxNode, textOf: (node: SyntaxNode) => string): string[] {
  const statements = childrenOf(root).filter(({ from, to }) => to <= found.from || from >= found.to);
  const byName = new Map<string, SyntaxNode>();
  for (const statement of statements)
    for (const name of namesOf(statement, textOf)) byName.set(name, statement);
  const needed = new Set<SyntaxNode>();
  const follow = (node: SyntaxNode): void => {
    for (const name of usedIn(node, textOf)) {
      const statement = byName.get(name);
      if (statement === undefined || needed.has(statement)) continue;
      needed.add(statement);
      follow(statement);
    }
  };
  follow(found);
  return [...needed]
    .sort((a, b) => a.from - b.from)
    .map((statement) => {
      const code = textOf(statement);
      return statement.name === 'ImportDeclaration'
        ? `// as the app serves it: ${code.replaceAll(/\s+/g, ' ')}`
        : code.replace(/^export\s+(?:default\s+)?/, '');
    });
}

function childrenOf(node: SyntaxNode): SyntaxNode[] {
  const children: SyntaxNode[] = [];
  for (let child = node.firstChild; child !== null; child = child.nextSibling) children.push(child);
  return children;
}

/** Names that a statement at the top of a file declares or imports. */
function namesOf(statement: SyntaxNode, textOf: (node: SyntaxNode) => string): string[] {
  const names: string[] = [];
  statement.cursor().iterate((node) => {
    if (['Block', 'ClassBody', 'ArrowFunction', 'FunctionExpression', 'ParamList'].includes(node.name))
      return false;
    if (node.name === 'VariableDefinition') names.push(textOf(node.node));
    return undefined;
  });
  return names;
}

function usedIn(node: SyntaxNode, textOf: (node: SyntaxNode) => string): ReadonlySet<string> {
  const names = new Set<string>();
  node.cursor().iterate(({ name, node: inner }) => {
    if (name === 'VariableName') names.add(textOf(inner));
  });
  return names;
}
