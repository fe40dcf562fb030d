import { askedWords } from '../explanation/cause-chain';
import { scheduleOf } from '../inputs/links';
import { functionPart, ms, text } from '../explanation/sentence';
import { handlersIn } from '../inputs/links';
import { isOwnFunction } from '../recording/functions';
import type { Adviser } from './suggestion';

const WORTH_MS = 16;

/** What a timer or an answer started stood in the way of an input. */
export const outOfTheWay: Adviser = (recording, { sting, phases }) => {
  const waiting = phases.find(({ name }) => name === 'waiting');
  if (sting.interaction === undefined || waiting === undefined) return [];
  return handlersIn(recording, sting.thread, waiting).flatMap((handler) => {
    const inTheWayMs =
      Math.min(handler.startMs + handler.durationMs, waiting.endMs) -
      Math.max(handler.startMs, waiting.startMs);
    const asked = scheduleOf(recording, handler);
    if (inTheWayMs < WORTH_MS || asked === undefined) return [];
    const isAppsOwn = handler.function !== undefined && isOwnFunction(recording, handler.function);
    const name = isAppsOwn ? functionPart(recording, handler.function!) : text('It');
    const what = askedWords(asked);
    return [
      {
        kind: 'out-of-the-way',
        advice: [
          text('Do less of what '),
          text(what),
          text(' starts, do it when nobody waits, or in a worker.'),
        ],
        evidence: [name, text(`, started by ${what}, stood in the way for `), ms(inTheWayMs), text('.')],
        functionId: handler.function,
        range: { startMs: handler.startMs, endMs: handler.startMs + handler.durationMs },
        savesMs: inTheWayMs,
      },
    ];
  });
};
