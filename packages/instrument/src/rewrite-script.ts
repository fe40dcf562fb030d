import {
  INSERTIONS,
  ScriptResolver,
  originalPath,
  packPositions,
  registerCall,
  type ScriptRegistration,
  type ScriptText,
} from '@nettle-patch/core';
import type { Program } from 'acorn';
import type { ScriptToPrepare } from './script-to-prepare';
import { composeMaps } from './compose-maps';
import { Edits } from './edits';
import { literalOf, withInlineMap } from './evaluated';
import { parseScript, parsingProblem } from './parse';
import { Rewriter } from './rewriter';
import { topLevelNames } from './scopes';
import { directivesOf } from './tree';

export interface RewriteOptions extends ScriptToPrepare {
  /** Id of the script itself; its functions get the ids after it. */
  readonly firstId: number;
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

/** A script that was rewritten but for the ids of its functions. */
export interface PreparedScript {
  /** Ids wanted: the script's own and one for each function. */
  readonly idCount: number;
  /**
   * @param firstId id of the script itself; its functions get the ids after it
   * @throws UnrewritableError when what came of it cannot be parsed
   */
  finish(firstId: number): RewrittenScript;
}

/**
 * Rewrites a script so that it tells of every call: an enter and a leave in each function worth recording, named
 * by the best name there is. Nothing else about the script changes, its lines least of all.
 * @throws UnrewritableError when it cannot be parsed
 */
export function prepareScript(text: string, options: ScriptToPrepare): PreparedScript {
  const { onStage = () => undefined, mode = 'exact' } = options;
  onStage('reading');
  const { program, isModule } = parsed(text, options.isModule);
  onStage('rewriting');
  const edits = new Edits();
  const rewriter = new Rewriter(text, edits, mode);
  rewriter.program(program, isModule);
  const { registration, positionCount } = registrationOf(text, rewriter, options);
  const closed = !rewriter.waitsAtTopLevel;
  const told = JSON.stringify(JSON.stringify(registration)).replaceAll('<', '\\x3c');
  const scope = globalNameIn(program);
  const head = (firstId: number) =>
    `${registerCall(mode, firstId, told, scope, registration.functions.length)}${closed ? INSERTIONS[mode].scriptBegin(firstId) : ''}`;
  const { at, begin } = headOf(text, program, options.prelude);
  edits.between(at, (firstFunctionId) => begin + head(firstFunctionId - 1));
  for (const { index, 0: comment } of text.matchAll(MAP_COMMENT)) {
    if (!isInside(program, index)) edits.remove(index, index + comment.length);
  }
  // Behind the last statement, and not behind a comment that may follow it, which would take one line more.
  if (closed) {
    edits.open(program.body.at(-1)?.end ?? text.length, INSERTIONS[mode].scriptEnd());
  }
  let idCount = rewriter.sites.length + 1 + positionCount;
  for (const script of rewriter.evaluated) {
    const inner = trying(() => prepareScript(script.text, optionsWithin(script, options)));
    if (inner === undefined) continue;
    const idsBefore = idCount;
    idCount += inner.idCount;
    edits.remove(script.start, script.end);
    edits.open(
      script.start,
      onceFor((firstFunctionId: number) => {
        const made = trying(() => inner.finish(firstFunctionId - 1 + idsBefore));
        if (made === undefined) return text.slice(script.start, script.end);
        return literalOf(options.mapsWithin ? withInlineMap(made.code, made.map()) : made.code);
      }),
    );
  }
  return {
    idCount,
    finish: (firstId) => {
      const code = edits.applyTo(text, firstId + 1);
      onStage('checking');
      const problem = (options.problemOf ?? parsingProblem)(code, text, isModule);
      if (problem !== undefined) throw new UnrewritableError(`once rewritten, it is no script: ${problem}`);
      return {
        code,
        idCount,
        map: () => composeMaps(edits.tracedOn(text, firstId + 1), options),
      };
    },
  };
}

function optionsWithin({ url, map }: ScriptText, { problemOf, mode }: ScriptToPrepare): ScriptToPrepare {
  return {
    url,
    ...(mode === undefined ? {} : { mode }),
    isModule: false,
    ...(problemOf === undefined ? {} : { problemOf }),
    ...(map === undefined ? {} : { map, mapUrl: url }),
  };
}

/** Remembers what was made last: a text is asked for once more where its map is wanted. */
function onceFor(make: (firstId: number) => string): (firstId: number) => string {
  let last: { readonly firstId: number; readonly made: string } | undefined;
  return (firstId) => {
    if (last?.firstId !== firstId) last = { firstId, made: make(firstId) };
    return last.made;
  };
}

/** What is done with a script that another evaluates; undefined where it cannot be rewritten, and stays as it is. */
function trying<Value>(work: () => Value): Value | undefined {
  try {
    return work();
  } catch (error) {
    if (error instanceof UnrewritableError) return undefined;
    throw error;
  }
}

/**
 * The same at once, where the first id is known.
 * @throws UnrewritableError when it cannot be parsed, or what came of it cannot
 */
export function rewriteScript(text: string, { firstId, ...options }: RewriteOptions): RewrittenScript {
  return prepareScript(text, options).finish(firstId);
}

/**
 * Puts a script before another, behind its directives, and changes nothing else.
 * @throws UnrewritableError when it cannot be parsed
 */
export function withPrelude(text: string, prelude: string): string {
  const { at, begin } = headOf(text, parsed(text, undefined).program, prelude);
  return `${text.slice(0, at)}${begin}${text.slice(at)}`;
}

/** Where what runs before all else in a script is put, and how that begins. */
function headOf(text: string, program: Program, prelude: string | undefined): { at: number; begin: string } {
  const isBehindDirective = directivesOf(program.body).length > 0;
  const begin = `${isBehindDirective ? ';' : ''}${prelude === undefined ? '' : `${prelude};`}`;
  return { at: headOffset(text, program), begin };
}

function parsed(text: string, isModule: boolean | undefined): ReturnType<typeof parseScript> {
  try {
    return parseScript(text, isModule);
  } catch (error) {
    if (error instanceof SyntaxError) throw new UnrewritableError(`it could not be parsed: ${error.message}`);
    if (error instanceof RangeError) throw new UnrewritableError('it is nested too deep');
    throw error;
  }
}

/**
 * Behind the directives, or right before the first statement: what stands before it may be comments that only are such
 * at the beginning of a line (ECMA-262, sections 12.5 and B.1.1).
 */
function headOffset(text: string, program: Program): number {
  const [first] = program.body;
  return directivesOf(program.body).at(-1)?.end ?? first?.start ?? text.length;
}

/** Whether an offset lies within a statement, such as in a template. */
function isInside(program: Program, offset: number): boolean {
  return program.body.some(({ start, end }) => start < offset && offset < end);
}

function registrationOf(
  text: string,
  rewriter: Rewriter,
  options: ScriptToPrepare,
): { registration: ScriptRegistration; positionCount: number } {
  const script: ScriptText = {
    url: options.url,
    text,
    ...(options.map === undefined ? {} : { map: options.map, mapUrl: options.mapUrl ?? options.url }),
  };
  const names = new ScriptResolver(script, rewriter.functions());
  const files: string[] = [];
  const fileIndex = (file: string) => {
    const at = files.indexOf(file);
    return at >= 0 ? at : files.push(file) - 1;
  };
  const path = originalPath(options.url) || 'page';
  const scriptName = path.split('/').pop()!;
  const functions: ScriptRegistration['functions'][number][] = [[scriptName, fileIndex(path), 1, 1, 0]];
  for (const { start } of rewriter.sites) {
    const { name, file, line, column, owner } = names.functionAt(start);
    functions.push([name, fileIndex(file ?? path), line, column, owner === 'library' ? 1 : 0]);
  }
  const registration = { url: options.url, files, functions };
  const marked = rewriter.positions((start) => names.positionAt(start));
  if (marked.length === 0) return { registration, positionCount: 0 };
  const positions = marked.map(({ functionNumber, start }) => {
    const functionIndex = functionNumber === undefined ? 0 : functionNumber + 1;
    const { file, line, column } = names.positionAt(start);
    const [, ofFunction, functionLine, functionColumn] = functions[functionIndex]!;
    // Code of another file, put into the function by a build, has no line there.
    return files[ofFunction] === (file ?? path)
      ? { functionIndex, line, column }
      : { functionIndex, line: functionLine, column: functionColumn };
  });
  return {
    registration: { ...registration, positions: packPositions(positions) },
    positionCount: marked.length,
  };
}

/** A name by which the script reaches the global object. @throws UnrewritableError where it gives all another meaning */
function globalNameIn(program: Program): string {
  const taken = topLevelNames(program);
  const name = ['globalThis', 'self', 'window'].find((one) => !taken.has(one));
  if (name !== undefined) return name;
  throw new UnrewritableError('it has names of its own for all by which the global object is known');
}
