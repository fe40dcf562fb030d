import type { Culprit } from '../blame/culprits';
import { ownerOf } from '../recording/functions';
import type { Recording } from '../recording/recording';

/** Whether a function is the app's own: advice is about own code, as nobody changes a library. */
export function isOwn(recording: Recording, functionId: number): boolean {
  return ownerOf(recording.functions.get(functionId)) === 'own';
}

/** The first own one of some culprits, the one that has most to do with it. */
export function firstOwn(recording: Recording, culprits: readonly Culprit[]): Culprit | undefined {
  return culprits.find(({ functionId }) => isOwn(recording, functionId));
}
