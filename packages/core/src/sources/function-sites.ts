import { parse, type AnyNode, type Node, type Program } from 'acorn';
import { isFunction, pushChildren, type FunctionNode } from './syntax-tree';
import { last } from '../lists/items';

/** A function in a script's text. Offsets count UTF-16 units from 0. */
export interface FunctionSite {
  readonly start: number;
  readonly bodyStart: number;
  readonly end: number;
  /** Where the name that people know it by stands, if it has one. */
  readonly nameStart?: number;
  readonly name?: string;
  /** The function it stands in. */
  readonly outer?: FunctionSite;
}

interface Named {
  readonly start: number;
  readonly name: string;
}

function nameOfTarget(node: AnyNode | Node | null | undefined): Named | undefined {
  const target = node as AnyNode | null | undefined;
  if (target?.type === 'Identifier' || target?.type === 'PrivateIdentifier') {
    return { start: target.start, name: target.name };
  }
  if (target?.type === 'MemberExpression') return nameOfTarget(target.property);
  if (target?.type === 'Literal') return { start: target.start, name: String(target.value) };
  return undefined;
}

/** The name a function gets from what stands around it, as ECMA-262's NamedEvaluation gives it one. */
function nameFromParent(parent: AnyNode | undefined): Named | undefined {
  switch (parent?.type) {
    case 'VariableDeclarator':
      return nameOfTarget(parent.id);
    case 'AssignmentExpression':
      return nameOfTarget(parent.left);
    case 'AssignmentPattern':
      return nameOfTarget(parent.left);
    case 'Property':
    case 'MethodDefinition':
    case 'PropertyDefinition':
      return nameOfTarget(parent.key);
    default:
      return undefined;
  }
}

function parseScript(text: string): Program | undefined {
  for (const sourceType of ['module', 'script'] as const) {
    try {
      return parse(text, {
        ecmaVersion: 'latest',
        sourceType,
        allowHashBang: true,
        allowReturnOutsideFunction: true,
      });
    } catch (error) {
      if (error instanceof RangeError) return undefined;
      if (!(error instanceof SyntaxError)) throw error;
    }
  }
  return undefined;
}

/**
 * All functions of a script, in order of their start.
 * @returns undefined when the text is no JavaScript, or is nested deeper than the parser goes.
 */
export function functionSites(text: string): FunctionSite[] | undefined {
  const program = parseScript(text);
  return program === undefined ? undefined : sitesIn(program);
}

/** A function of a tree. @param parent the node that it stands in directly, which may give it a name */
export function siteOf({ id, start, body, end }: FunctionNode, parent: AnyNode): FunctionSite {
  const known = nameOfTarget(id) ?? nameFromParent(parent);
  const bodyStart = body.start;
  return known === undefined
    ? { start, bodyStart, end }
    : { start, bodyStart, end, nameStart: known.start, name: known.name };
}

/** All functions of a parsed script (ESTree). However deep the tree is, nothing calls itself. */
function sitesIn(program: Program): FunctionSite[] {
  const found: FunctionSite[] = [];
  const pending: AnyNode[] = [program];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    const from = pending.length;
    pushChildren(node, pending);
    for (let at = from; at < pending.length; at++) {
      const child = pending[at]!;
      if (isFunction(child)) found.push(siteOf(child, node));
    }
  }
  return nested(found);
}

/** All functions of a script, as they were found, in order of their start and each with the one it stands in. */
export function nested(found: readonly FunctionSite[]): FunctionSite[] {
  const around: FunctionSite[] = [];
  const sorted = [...found].sort((a, b) => a.start - b.start || b.end - a.end);
  return sorted.map((site) => {
    while (around.length > 0 && last(around).end < site.end) around.pop();
    const outer = around.at(-1);
    const placed = outer === undefined ? site : { ...site, outer };
    around.push(placed);
    return placed;
  });
}

/**
 * The function an engine means by an offset. Engines give where its parameters or its text begin, so it is
 * the innermost one whose head (from its name to its body) holds the offset, else the innermost around it.
 */
export function siteAt(sites: readonly FunctionSite[], offset: number): FunctionSite | undefined {
  let around: FunctionSite | undefined;
  let head: FunctionSite | undefined;
  for (const site of sites) {
    const start = Math.min(site.start, site.nameStart ?? site.start);
    if (start > offset) {
      if (site.start > offset) break;
      continue;
    }
    if (offset >= site.end) continue;
    around = site;
    if (offset <= site.bodyStart) head = site;
  }
  return head ?? around;
}
