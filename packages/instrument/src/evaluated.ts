import { evaluatedScript, toBase64, type ScriptText } from '@nettle-patch/core';
import type { AnyNode, Literal } from 'acorn';

/** A script that another evaluates, and the literal that holds it. */
export interface EvaluatedScript extends ScriptText {
  readonly text: string;
  readonly start: number;
  readonly end: number;
}

const isText = (node: AnyNode | undefined): node is Literal & { readonly value: string } =>
  node?.type === 'Literal' && typeof node.value === 'string';

/**
 * The script that a statement evaluates: its text stands in the call, directly or by way of what makes it trusted (Trusted
 * Types), and nobody asks what comes of it.
 */
export function evaluatedBy(statement: AnyNode): EvaluatedScript | undefined {
  const call = statement.type === 'ExpressionStatement' ? (statement.expression as AnyNode) : undefined;
  if (call?.type !== 'CallExpression' || call.arguments.length !== 1) return undefined;
  if (call.callee.type !== 'Identifier' || call.callee.name !== 'eval') return undefined;
  const given = call.arguments[0] as AnyNode;
  const isPassedOn = given.type === 'CallExpression' && given.arguments.length === 1;
  const literal = isPassedOn ? (given.arguments[0] as AnyNode) : given;
  if (!isText(literal)) return undefined;
  const script = evaluatedScript(literal.value);
  return script && { ...script, start: literal.start, end: literal.end };
}

/** A string literal that may stand in a script of a page, which `</script` would end. */
export function literalOf(text: string): string {
  return JSON.stringify(text).replaceAll('<', '\\u003c');
}

/** A script with its map behind it, as text. */
export function withInlineMap(code: string, map: string): string {
  const encoded = toBase64(new TextEncoder().encode(map));
  return `${code}\n//# sourceMappingURL=data:application/json;base64,${encoded}`;
}
