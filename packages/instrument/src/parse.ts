import { parse as parseAnew, type Program } from 'acorn';
import { parse, type Options } from 'meriyah';

export interface ParsedScript {
  readonly program: Program;
  readonly isModule: boolean;
}

/** Tells why a rewritten script is none, or nothing where it is one. */
export type ProblemFinder = (code: string, original: string, isModule: boolean) => string | undefined;

/** Asks the parser that read the original, and another where that one finds a fault: each has some of its own. */
export const parsingProblem: ProblemFinder = (code, _original, isModule) => {
  try {
    parseScript(code, isModule);
    return undefined;
  } catch (error) {
    return isParsedByAnother(code, isModule) ? undefined : (error as Error).message;
  }
};

function isParsedByAnother(code: string, isModule: boolean): boolean {
  try {
    parseAnew(code, {
      ecmaVersion: 'latest',
      sourceType: isModule ? 'module' : 'script',
      allowHashBang: true,
    });
    return true;
  } catch {
    return false;
  }
}

/** The browser judges regular expressions: it may know a newer syntax than the engine that runs here. */
const OPTIONS: Options = {
  next: true,
  ranges: { start: true, end: true },
  webcompat: true,
  validateRegex: false,
};

/**
 * Parses a script, as a module where it is one. The tree is an ESTree with offsets.
 * @param isModule whether it is known to be a module or known not to be; undefined where only the text tells
 * @throws SyntaxError when it is neither
 */
export function parseScript(text: string, isModule?: boolean): ParsedScript {
  const parseAs = (asModule: boolean): ParsedScript => ({
    program: parse(text, { ...OPTIONS, sourceType: asModule ? 'module' : 'script' }) as unknown as Program,
    isModule: asModule,
  });
  if (isModule !== undefined) return parseAs(isModule);
  try {
    return parseAs(false);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return parseAs(true);
  }
}
