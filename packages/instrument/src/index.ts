/** The public face: rewriting of scripts so that they tell of every call. */
export {
  rewriteScript,
  withPrelude,
  UnrewritableError,
  type RewriteOptions,
  type RewrittenScript,
} from './rewrite-script';
export { parseScript, parsingProblem, type ProblemFinder } from './parse';
