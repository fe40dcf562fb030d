import {
  findStings,
  stingMarkdown,
  stingPage,
  stingPicture,
  stingProofOf,
  type Recording,
  type StingProof,
  type Thresholds,
} from '@nettle-patch/core';
import { FileError } from './read-recording';

const FORMS: Readonly<Record<'markdown' | 'html' | 'svg', (proof: StingProof) => string>> = {
  markdown: stingMarkdown,
  html: stingPage,
  svg: stingPicture,
};

/**
 * A report of one sting, for people who have not got the tool.
 * @param number of the sting, from 1, in order of rank
 * @throws FileError where there is none of that number
 */
export function stingText(
  recording: Recording,
  number: number,
  thresholds: Thresholds,
  form: keyof typeof FORMS,
): string {
  const stings = findStings(recording, thresholds);
  if (number < 1 || number > stings.length) {
    const there = stings.length === 0 ? 'no stings' : `stings 1 to ${stings.length}`;
    throw new FileError(`--sting ${number}: the recording has ${there}.`);
  }
  return FORMS[form](stingProofOf(recording, number - 1, thresholds, stings));
}
