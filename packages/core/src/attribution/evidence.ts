import type { EngineActivity } from '../recording/functions';
import type { TimeRange } from '../recording/recording';

/** What the light sources say of a stretch of time, without a look at the samples. */
export type Evidence =
  /** An entry into script; entries with the same `pool` were entered in the same way. */
  | { readonly kind: 'script'; readonly entry: number; readonly pool: number }
  | { readonly kind: 'known'; readonly activity: EngineActivity }
  | { readonly kind: 'drawing'; readonly certainty: 'measured' | 'inferred' }
  /** The watchdog saw this stack. */
  | { readonly kind: 'seen'; readonly stack: number }
  | { readonly kind: 'busy' }
  | { readonly kind: 'paused' }
  | { readonly kind: 'none' };

export interface EvidenceInterval extends TimeRange {
  readonly evidence: Evidence;
}
