import { decimalText } from '../words/figures';
import { isSlowOutcome } from '../detectors/slow-outcome';
import { ms, text } from '../explanation/sentence';
import { requestName } from '../outcomes/steps';
import type { Recording, TimeRange } from '../recording/recording';
import { handlersIn } from '../inputs/links';
import type { Adviser } from './suggestion';

/** A shorter time is hardly worth it. */
const WORTH_MS = 50;
/** Script that ran for a larger share of it may as well be what kept the thread. */
const MAX_SCRIPT = 0.2;
/** What is smaller is parsed in no time. Bytes. */
const MIN_BYTES = 100_000;

function scriptMs(recording: Recording, thread: number, range: TimeRange): number {
  return handlersIn(recording, thread, range).reduce(
    (sum, { startMs, durationMs }) =>
      sum + Math.min(startMs + durationMs, range.endMs) - Math.max(startMs, range.startMs),
    0,
  );
}

/** Bytes of the largest answer of an address that had come by a time, shortly before; undefined where none is known. */
function bytesOf(recording: Recording, url: string | undefined, range: TimeRange): number | undefined {
  const sizes = [...recording.events.request.overlapping(range.startMs, range.endMs)]
    .filter((row) => row.url === url)
    .map(({ bytes = 0 }) => bytes);
  return sizes.length === 0 ? undefined : Math.max(...sizes);
}

/**
 * A large answer that had come, and for a while no script went on with it: no standard tells of parsing, so this is an
 * inference, and is called one.
 */
export const parseElsewhere: Adviser = (recording, { sting: { detail, thread } }) => {
  if (!isSlowOutcome(detail)) return [];
  return detail.steps.flatMap((step, at) => {
    const request = detail.steps[at - 1];
    const lengthMs = step.endMs - step.startMs;
    if (step.name !== 'waiting' || request?.name !== 'request' || lengthMs < WORTH_MS) return [];
    const bytes = bytesOf(recording, request.url, request);
    if (bytes === undefined || bytes < MIN_BYTES) return [];
    if (scriptMs(recording, thread, step) > lengthMs * MAX_SCRIPT) return [];
    return [
      {
        kind: 'parse-elsewhere',
        advice: [
          text('Ask for less of it, or have a worker fetch and parse it and hand over what is shown.'),
        ],
        evidence: [
          text(`The answer of ${requestName(request)}, ${decimalText(bytes / 1e6, 1)} MB, had come `),
          ms(lengthMs),
          text(' before script went on, and hardly any ran meanwhile: most likely it was parsed.'),
        ],
        functionId: undefined,
        range: step,
        savesMs: lengthMs,
      },
    ];
  });
};
