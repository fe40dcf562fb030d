/** A thread that rewrites scripts, so that the server goes on answering; it has stack for code that is nested deep. */
import { parentPort } from 'node:worker_threads';
import type { RewritingStage } from '@nettle-patch/core';
import { prepareScript, withPrelude, type PreparedScript } from '@nettle-patch/instrument';
import type { FromThread, Job, ToThread } from './rewriting-messages';
import { problemOf } from './well-formed';

const waiting = new Map<number, { readonly prepared: PreparedScript; readonly wantsMap: boolean }>();

function answer(message: FromThread): void {
  parentPort!.postMessage(message);
}

/** Whatever goes wrong with a script is the script's: it passes as it was. */
function trying(number: number, work: () => void): void {
  try {
    work();
  } catch (error) {
    waiting.delete(number);
    answer({ type: 'refused', number, problem: (error as Error).message });
  }
}

function begin(number: number, job: Job): void {
  if (job.type === 'precede') {
    answer({ type: 'done', number, code: withPrelude(job.text, job.prelude) });
    return;
  }
  const onStage = (stage: RewritingStage) => answer({ type: 'stage', number, stage });
  const prepared = prepareScript(job.text, {
    ...job.options,
    problemOf,
    onStage,
    mapsWithin: job.wantsMap,
  });
  waiting.set(number, { prepared, wantsMap: job.wantsMap });
  answer({ type: 'wants-ids', number, idCount: prepared.idCount });
}

function finish(number: number, firstId: number): void {
  const { prepared, wantsMap } = waiting.get(number)!;
  waiting.delete(number);
  const { code, map } = prepared.finish(firstId);
  answer({ type: 'done', number, code, ...(wantsMap ? { map: map() } : {}) });
}

parentPort!.on('message', (message: ToThread) => {
  const { number } = message;
  trying(number, () => {
    if (message.type === 'job') begin(number, message.job);
    else finish(number, message.firstId);
  });
});
