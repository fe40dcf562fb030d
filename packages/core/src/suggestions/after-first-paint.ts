import { functionPart, ms, text } from '../explanation/sentence';
import { originalPath } from '../recording/original-path';
import { RESERVED_PATH } from '../protocol/paths';
import { firstOwn } from '../explanation/culprits';
import type { Adviser } from './suggestion';

const WORTH_MS = 50;
const SCRIPTS = new Set(['classic-script', 'module-script']);

/** A script that kept the page from being shown. */
export const afterFirstPaint: Adviser = (recording, { handlers, culprits }) => {
  const painted = [...recording.events.state.rows()].find(({ type }) => type === 'paint');
  if (painted === undefined || !recording.header.startUp) return [];
  return handlers
    .filter(
      ({ type, invoker, startMs, durationMs }) =>
        SCRIPTS.has(type) &&
        durationMs >= WORTH_MS &&
        startMs < painted.startMs &&
        !invoker.includes(RESERVED_PATH),
    )
    .map(({ invoker, startMs, durationMs }) => {
      const worst = firstOwn(recording, culprits);
      const inner =
        worst === undefined ? [] : [text(', most of it in '), functionPart(recording, worst.functionId)];
      return {
        kind: 'after-first-paint',
        advice: [text('Do this after the page is shown, or when it is first wanted.')],
        evidence: [
          text(`${originalPath(invoker)} ran for `),
          ms(durationMs),
          ...inner,
          text(' before anything was shown, '),
          ms(painted.startMs),
          text(' after the page began to load.'),
        ],
        functionId: worst?.functionId,
        range: { startMs, endMs: startMs + durationMs },
        savesMs: durationMs,
      };
    });
};
