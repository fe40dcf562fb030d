import vm from 'node:vm';
import { parsingProblem, type ProblemFinder } from '@nettle-patch/instrument';

/** Only where modules can be made by hand, as in a worker thread that was started so. */
const Module = (vm as { SourceTextModule?: new (code: string) => unknown }).SourceTextModule;

function compileProblem(code: string, isModule: boolean): string | undefined {
  try {
    if (!isModule) new vm.Script(code);
    else if (Module === undefined) return parsingProblem(code, code, true);
    else new Module(code);
    return undefined;
  } catch (error) {
    return (error as Error).message;
  }
}

/**
 * Why a rewritten script is none, or nothing where it is one. The engine that runs here is asked first, as the quickest
 * and most like that of a browser; where it does not know the syntax of the original either, the parser is.
 */
export const problemOf: ProblemFinder = (code, original, isModule) => {
  const problem = compileProblem(code, isModule);
  if (problem === undefined || compileProblem(original, isModule) === undefined) return problem;
  return parsingProblem(code, original, isModule);
};
