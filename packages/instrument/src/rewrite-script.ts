import {
  ScriptResolver,
  REGISTER,
  originalPath,
  ENTER,
  LEAVE,
  LEAVE_EXPRESSION,
  type ScriptRegistration,
  type ScriptText,
} from '@nettle-patch/core';
import type { Program } from 'acorn';
import MagicString from 'magic-string';
import { composeMaps } from './compose-maps';
import { parseScript } from './parse';
import { Rewriter, scriptBegin, scriptEnd, type RecordedSite } from './rewriter';
import { directivesOf } from './tree';

export interface RewriteOptions {
  /** Address of the script. */
  readonly url: string;
  /** Id of the script itself; its functions get the ids after it. */
  readonly firstId: number;
  /** Whether it is a module; undefined where only its text can tell. */
  readonly isModule?: boolean;
  /** Script that is to run before it, in a worker. */
  readonly prelude?: string;
  /** The script's own source map, as JSON text, and its address. */
  readonly map?: string;
  readonly mapUrl?: string;
}

export interface RewrittenScript {
  readonly code: string;
  /** Ids used: the script's own and one for each function. */
  readonly idCount: number;
  /** Source map of the rewritten text to the original sources (ECMA-426), as JSON text. */
  map(): string;
}

/** Thrown when a script cannot be rewritten, and must pass as it is. */
export class UnrewritableError extends Error {
  override readonly name = 'UnrewritableError';
}

const MAP_COMMENT = /^[ \t]*\/\/[#@][ \t]*sourceMappingURL=.*$/gm;

/**
 * Rewrites a script so that it tells of every call: an enter and a leave in each function worth recording, named
 * by the best name there is. Nothing else about the script changes, its lines least of all.
 * @throws UnrewritableError when it cannot be parsed
 */
export function rewriteScript(text: string, options: RewriteOptions): RewrittenScript {
  const { program, isModule } = parsed(text, options.isModule);
  const edited = new MagicString(text);
  const rewriter = new Rewriter(text, edited, options.firstId + 1);
  rewriter.program(program, isModule);
  const registration = registrationOf(text, program, rewriter.sites, options);
  const closed = !rewriter.waitsAtTopLevel;
  const head = `${registerCall(options.firstId, registration)}${closed ? scriptBegin(options.firstId) : ''}`;
  const at = headOffset(text, program);
  edited.prependRight(
    at,
    `${at > 0 ? ';' : ''}${options.prelude === undefined ? '' : `${options.prelude};`}${head}`,
  );
  for (const { index, 0: comment } of text.matchAll(MAP_COMMENT)) {
    if (!isInside(program, index)) edited.remove(index, index + comment.length);
  }
  if (closed) edited.append(scriptEnd);
  return {
    code: edited.toString(),
    idCount: rewriter.sites.length + 1,
    map: () => composeMaps(edited, options),
  };
}

/**
 * Puts a script before another, behind its directives, and changes nothing else.
 * @throws UnrewritableError when it cannot be parsed
 */
export function withPrelude(text: string, prelude: string): string {
  const at = headOffset(text, parsed(text, undefined).program);
  return `${text.slice(0, at)}${at > 0 ? ';' : ''}${prelude};${text.slice(at)}`;
}

function parsed(text: string, isModule: boolean | undefined): ReturnType<typeof parseScript> {
  try {
    return parseScript(text, isModule);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    throw new UnrewritableError(error.message);
  }
}

/** Behind a hashbang and the directives. */
function headOffset(text: string, program: Program): number {
  const directive = directivesOf(program.body).at(-1);
  if (directive !== undefined) return directive.end;
  return text.startsWith('#!') ? text.search(/[\n\r\u2028\u2029]/) + 1 : 0;
}

/** Whether an offset lies within a statement, such as in a template. */
function isInside(program: Program, offset: number): boolean {
  return program.body.some(({ start, end }) => start < offset && offset < end);
}

function registrationOf(
  text: string,
  program: Program,
  sites: readonly RecordedSite[],
  options: RewriteOptions,
): ScriptRegistration {
  const script: ScriptText = {
    url: options.url,
    text,
    ...(options.map === undefined ? {} : { map: options.map, mapUrl: options.mapUrl ?? options.url }),
  };
  const names = new ScriptResolver(script, program);
  const files: string[] = [];
  const fileIndex = (file: string) => {
    const at = files.indexOf(file);
    return at >= 0 ? at : files.push(file) - 1;
  };
  const path = originalPath(options.url) || 'page';
  const scriptName = path.split('/').pop()!;
  const functions: ScriptRegistration['functions'][number][] = [[scriptName, fileIndex(path), 1, 1, 0]];
  for (const { start } of sites) {
    const { name, file, line, column, owner } = names.functionAt(start);
    functions.push([name, fileIndex(file ?? path), line, column, owner === 'library' ? 1 : 0]);
  }
  return { url: options.url, files, functions };
}

/**
 * The call that tells the recorder of the script. Where there is no recorder, as in a worker of a kind it does
 * not reach, the functions it would provide are made to do nothing.
 */
function registerCall(firstId: number, registration: ScriptRegistration): string {
  const told = JSON.stringify(JSON.stringify(registration)).replaceAll('<', '\\x3c');
  const nothing = `globalThis.${ENTER}??=globalThis.${LEAVE}=globalThis.${LEAVE_EXPRESSION}=()=>0`;
  return `globalThis.${REGISTER}?globalThis.${REGISTER}(${firstId},${told}):${nothing};`;
}
