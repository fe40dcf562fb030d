import type { RewritingMode, RewritingStage } from '@nettle-patch/core';
import type { ProblemFinder } from './parse';

export interface ScriptToPrepare {
  /** Address of the script. */
  readonly url: string;
  /** How closely it is to tell of itself; by default, of every call. */
  readonly mode?: RewritingMode;
  /** Whether it is a module; undefined where only its text can tell. */
  readonly isModule?: boolean;
  /** Script that is to run before it, in a worker. */
  readonly prelude?: string;
  /** Asked of what came of it, before anybody gets it; the parser, where nothing else is given. */
  readonly problemOf?: ProblemFinder;
  /** Told what is begun with it. */
  readonly onStage?: (stage: RewritingStage) => void;
  /** The script's own source map, as JSON text, and its address. */
  readonly map?: string;
  readonly mapUrl?: string;
  /** Whether scripts that it evaluates are to hold their maps. */
  readonly mapsWithin?: boolean;
}
