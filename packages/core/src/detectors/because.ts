import type { Anatomy } from '../explanation/anatomy';
import { becauseOfDelay } from '../explanation/because-delay';
import { capitalised, type BecausePart } from '../explanation/sentence';
import type { Recording } from '../recording/recording';
import { DETECTORS, JOINERS } from './list';

/** The sentence that explains a sting, in parts, so that each name in it can lead to its place. */
export function becauseOf(recording: Recording, anatomy: Anatomy): BecausePart[] {
  const { detail } = anatomy.sting;
  const finder = detail && [...DETECTORS, ...JOINERS].find((one) => one.detail === detail.type);
  const parts =
    detail === undefined || finder?.because === undefined
      ? becauseOfDelay(recording, anatomy)
      : finder.because(recording, anatomy, detail);
  return capitalised(parts);
}
