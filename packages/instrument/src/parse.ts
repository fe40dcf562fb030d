import { parse, type Program } from 'acorn';

export interface ParsedScript {
  readonly program: Program;
  readonly isModule: boolean;
}

/**
 * Parses a script, as a module where it is one.
 * @param isModule whether it is known to be a module or known not to be; undefined where only the text tells
 * @throws SyntaxError when it is neither
 */
export function parseScript(text: string, isModule?: boolean): ParsedScript {
  const parseAs = (asModule: boolean): ParsedScript => ({
    program: parse(text, {
      ecmaVersion: 'latest',
      sourceType: asModule ? 'module' : 'script',
      allowHashBang: true,
    }),
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
