import { countText, msText, percentText } from '@nettle-patch/core';
import type { ShownLine } from '../../workers/analysis/queries/source-queries';

/** What is known of a line itself, and how sure: by samples that saw it, or else of the functions that begin there. */
export function selfWords({ selfMs, selfErrorMs, samples, share, names }: ShownLine): string {
  if (samples === 0) return `${names.join(', ')}: ${msText(selfMs)} in its own code`;
  const seen = `${countText(samples)} ${samples === 1 ? 'sample' : 'samples'}`;
  return `${msText(selfMs)} ± ${msText(selfErrorMs)} on this line by ${seen}, ${percentText(share)} of its function`;
}

/** The same with what was called. */
export const totalWords = ({ samples, calls, totalMs, names }: ShownLine): string =>
  samples > 0 || calls.length > 0
    ? `${msText(totalMs)} with what was called from here`
    : `${names.join(', ')}: ${msText(totalMs)} with all it called`;

export const countWords = ({ count }: ShownLine): string => `called ${countText(count)} times`;

export const forcedWords = ({ forcedCount, forcedMs }: ShownLine): string =>
  `layout forced here ${countText(forcedCount)} times, ${msText(forcedMs)}`;
