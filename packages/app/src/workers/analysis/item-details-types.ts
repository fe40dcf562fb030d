import { roundText } from '@nettle-patch/core';
import type { Recording, TimeRange } from '@nettle-patch/core';
import type { Others } from './other-occurrences';

export interface Fact {
  readonly label: string;
  readonly text: string;
  readonly over?: boolean;
}

/** A step on the way from an input to what runs. */
export interface ChainStep {
  readonly words: string;
  readonly startMs: number;
  readonly functionId?: number;
}

/** All that is told of one item in the time view. Times are milliseconds. */
export interface ItemDetails extends TimeRange {
  readonly lane: string;
  readonly ref: number | undefined;
  /** What it is: "Call", "Request", … */
  readonly what: string;
  readonly title: string;
  readonly place: string;
  readonly functionId?: number;
  readonly facts: readonly Fact[];
  /** Functions it was called from, the nearest first. */
  readonly callers: readonly { readonly functionId: number; readonly name: string; readonly place: string }[];
  /** How it came to run, from what a person did on. */
  readonly chain: readonly ChainStep[];
  readonly others?: Others;
  /** Index of the sting it belongs to. */
  readonly sting?: number;
}

/** What a card says of an item at a glance. */
export type ItemCard = Pick<ItemDetails, 'what' | 'title' | 'place' | 'facts'>;

export const kilobytes = (bytes: number) => `${roundText(bytes / 1024)} kB`;

/** What is told of an item before its lane and its sting are added; what takes longer to find out only when asked. */
export type ItemSummary = Pick<ItemDetails, 'what' | 'title' | 'startMs' | 'endMs' | 'functionId'> &
  Partial<Pick<ItemDetails, 'place' | 'facts' | 'callers'>> & {
    readonly chain?: () => ChainStep[];
    readonly others?: () => Others | undefined;
  };

/** What tellers of items have in common. */
export interface DetailsContext {
  readonly recording: Recording;
  /** Name and place of a function. */
  readonly named: (functionId: number) => { readonly title: string; readonly place: string };
  /** How the longest entry into script in a range came to run. */
  readonly chain: (thread: number, range: TimeRange) => ChainStep[];
}
