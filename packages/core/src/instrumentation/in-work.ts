/** What is being done with a script, in this order. */
export const REWRITING_STAGES = ['reading', 'rewriting', 'checking'] as const;

export type RewritingStage = (typeof REWRITING_STAGES)[number];

/** A script that is being rewritten for fine mode or exact calls, while a page waits for it. */
export interface ScriptInWork {
  /** Last part of its address. */
  readonly name: string;
  /** Length of its text, in millions of characters. */
  readonly megabytes: number;
  readonly stage: RewritingStage;
  /** How long it has been in work. */
  readonly sinceMs: number;
}
