import type { LensState } from './lens-state';

type LensPart = keyof LensState;

/** What a view does with the lens: the parts it obeys, and in words what it shows while none is set. */
export interface LensReach {
  readonly parts: ReadonlySet<LensPart>;
  readonly usual: string;
}

const reach = (usual: string, ...parts: LensPart[]): LensReach => ({
  usual,
  parts: new Set<LensPart>(['range', ...parts]),
});

const CALLS = reach(
  'whole recording, main thread, libraries folded',
  'thread',
  'foldLibraries',
  'foldRecursion',
  'minMs',
  'focus',
  'text',
  'slower',
);
const SOURCE = reach(
  'whole recording, main thread, libraries folded',
  'thread',
  'foldLibraries',
  'foldRecursion',
  'minMs',
  'focus',
);
const STINGS = reach('whole recording, all threads', 'thread', 'minMs', 'focus', 'text', 'slower');
const TIME = reach(
  'whole recording, libraries drawn thin',
  'thread',
  'foldLibraries',
  'minMs',
  'focus',
  'text',
);
const LADDER = reach('whole recording', 'thread', 'minMs', 'text');
const TABLE = reach('whole recording', 'thread');

/**
 * What the view of an address does with the lens. The thread is that of the sums beside the Timeline.
 * @param show how the view shows it, from the address
 */
export function lensReach(view: string, show: string | undefined): LensReach {
  if (view === 'calls') return CALLS;
  if (view === 'source') return SOURCE;
  if (view === 'stings') return STINGS;
  if (show === 'ladder') return LADDER;
  return show === 'table' || show === 'redraws' ? TABLE : TIME;
}
