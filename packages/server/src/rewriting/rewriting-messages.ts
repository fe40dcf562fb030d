import type { RewritingStage } from '@nettle-patch/core';
import type { ScriptToPrepare } from '@nettle-patch/instrument';

/** What a thread is asked to do with a script. */
export type Job =
  /** Rewrite it; the ids of its functions are asked for in between. */
  | {
      readonly type: 'rewrite';
      readonly text: string;
      readonly options: WireOptions;
      readonly wantsMap: boolean;
    }
  /** Put the prelude before it, and change nothing else. */
  | { readonly type: 'precede'; readonly text: string; readonly prelude: string };

/** Options that can be sent. */
export type WireOptions = Omit<ScriptToPrepare, 'problemOf' | 'onStage'>;

export type ToThread =
  | { readonly type: 'job'; readonly number: number; readonly job: Job }
  | { readonly type: 'ids'; readonly number: number; readonly firstId: number };

export type FromThread =
  | { readonly type: 'stage'; readonly number: number; readonly stage: RewritingStage }
  | { readonly type: 'wants-ids'; readonly number: number; readonly idCount: number }
  | { readonly type: 'done'; readonly number: number; readonly code: string; readonly map?: string }
  /** It cannot be rewritten, for this reason. */
  | { readonly type: 'refused'; readonly number: number; readonly problem: string };
