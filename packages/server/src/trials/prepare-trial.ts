import { BadTrialError, trialLineOf, trialLineWords, trialModule, type Trial } from '@nettle-patch/core';
import { parseScript } from '@nettle-patch/instrument';
import { transform } from 'sucrase';

/** What a parser tells of a text that is no code. */
interface ParserFault {
  readonly description?: string;
  readonly message: string;
  readonly loc?: { readonly start: { readonly line: number; readonly column: number } };
  readonly line?: number;
  readonly column?: number;
}

/**
 * The modules of a trial, one for each alternative.
 * @throws BadTrialError saying where which part is no code
 */
export function trialModules(trial: Trial): string[] {
  return trial.alternatives.map((_, at) => {
    const plain = trialModule(trial, at, false);
    const fault = faultIn(plain);
    if (fault === undefined) return plain;
    const awaiting = trialModule(trial, at, true);
    const usable = [awaiting, ...withoutTypes(plain), ...withoutTypes(awaiting)].find(
      (module) => faultIn(module) === undefined,
    );
    if (usable === undefined) throw new BadTrialError(faultWords(trial, at, fault));
    return usable;
  });
}

/** The same without the types of TypeScript, line by line as it was; nothing where it is no TypeScript either. */
function withoutTypes(module: string): string[] {
  try {
    return [
      transform(module, {
        transforms: ['typescript'],
        disableESTransforms: true,
        keepUnusedImports: true,
      }).code,
    ];
  } catch {
    return [];
  }
}

function faultIn(module: string): ParserFault | undefined {
  try {
    parseScript(module, true);
    return undefined;
  } catch (error) {
    return error as ParserFault;
  }
}

function faultWords(trial: Trial, at: number, { description, message, loc, line }: ParserFault): string {
  const found = loc?.start.line ?? line;
  const place = found === undefined ? undefined : trialLineOf(trial, at, found);
  const where = trialLineWords(trial, place ?? { part: at, line: 1 });
  return `${where}: this is neither JavaScript nor TypeScript: ${description ?? message}`;
}
