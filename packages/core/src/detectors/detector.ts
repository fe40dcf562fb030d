import type { Anatomy } from '../explanation/anatomy';
import type { BecausePart } from '../explanation/sentence';
import type { Thresholds } from '../format/thresholds';
import type { Recording } from '../recording/recording';
import type { Sting, StingDetail, StingExtent } from '../stings/sting';

/** A sting as its detector gives it: what is the same of all that it finds is added from the detector. */
export interface Found<Detail extends StingDetail = StingDetail> extends Omit<
  Sting,
  'kind' | 'also' | 'extent' | 'isRate' | 'detail'
> {
  readonly detail?: Detail;
}

/**
 * Finds one thing in a recording, and says all there is to say of it. Detectors may share a kind where a person would call
 * what they find the same; they differ in their details then.
 */
export interface Detector<Kind extends string = string, Detail extends StingDetail = StingDetail> {
  readonly kind: Kind;
  /** The type of the details it gives. */
  readonly detail?: Detail['type'];
  /** What the kind is called, within a sentence. */
  readonly label: string;
  /** When something is one, for the documentation. Markdown. */
  readonly about: string;
  readonly extent: StingExtent;
  /** Whether what it finds is a part of each second, and not one delay. */
  readonly isRate: boolean;
  /** No evidence, no sting. */
  find(recording: Recording, thresholds: Thresholds): readonly Found<Detail>[];
  /** The sentence for one with these details, where it is not that of one delay. */
  because?(recording: Recording, anatomy: Anatomy, detail: Detail): readonly BecausePart[];
}

/** Has several stings of all that were found, and merged, be told as one. */
export interface Joiner<Detail extends StingDetail = StingDetail> {
  /** The type of the details it gives. */
  readonly detail: Detail['type'];
  join(recording: Recording, stings: readonly Sting[]): readonly Sting[];
  because(recording: Recording, anatomy: Anatomy, detail: Detail): readonly BecausePart[];
}

/** What a detector found, as a sting. */
export function stingOf({ kind, extent, isRate }: Detector, found: Found): Sting {
  return { ...found, kind, also: [], extent, isRate };
}
