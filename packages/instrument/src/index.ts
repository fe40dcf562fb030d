/** The public face: rewriting of scripts so that they tell of every call. */
export {
  prepareScript,
  rewriteScript,
  withPrelude,
  UnrewritableError,
  type PreparedScript,
  type RewriteOptions,
  type RewrittenScript,
} from './rewrite-script';
export type { ScriptToPrepare } from './script-to-prepare';
export { parseScript, parsingProblem, type ProblemFinder } from './parse';
