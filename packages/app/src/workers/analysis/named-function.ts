import { displayName, displayPlace, ownerOf, type Recording } from '@nettle-patch/core';
import type { NamedFunction } from './analysis-results';

/** A function of a recording by its best name and place. */
export function namedFunction(recording: Recording, functionId: number): NamedFunction {
  const recorded = recording.functions.get(functionId);
  const source = recorded?.source === undefined ? undefined : recording.sources.get(recorded.source);
  return {
    name: displayName(recorded),
    place: displayPlace(recorded, source),
    owner: ownerOf(recorded),
  };
}
