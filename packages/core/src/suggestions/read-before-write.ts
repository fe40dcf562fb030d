import { canonicalFunction } from '../attribution/call-path';
import { functionPart, ms, text, times } from '../explanation/sentence';
import { isOwnFunction } from '../recording/functions';
import type { Adviser } from './suggestion';
import { toWrite, writeWords } from '../explanation/write-words';

const MIN_TIMES = 5;

/** Reads of geometry that follow writes in a loop: read everything first, then write. */
export const readBeforeWrite: Adviser = (recording, { forced }) =>
  forced
    .filter(({ count, write, function: by }) => {
      const isAppsOwn = by === undefined || isOwnFunction(recording, canonicalFunction(recording, by));
      return count >= MIN_TIMES && write !== undefined && isAppsOwn;
    })
    .map((row) => {
      const { count, read, write = '', costMs, startMs, durationMs } = row;
      const functionId = row.function === undefined ? undefined : canonicalFunction(recording, row.function);
      const place = functionId === undefined ? text('the script') : functionPart(recording, functionId);
      return {
        kind: 'read-before-write',
        advice: [
          text('Read '),
          text(read),
          text(' of all elements first in '),
          place,
          text(`, and ${toWrite(write)} only then.`),
        ],
        evidence: [
          text(`${read} was read after ${writeWords(write)} ${times(count)} in one task: `),
          ms(costMs),
          text(' of layout.'),
        ],
        functionId,
        range: { startMs, endMs: startMs + durationMs },
        savesMs: costMs,
      };
    });
