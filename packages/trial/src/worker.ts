/** A trial in a worker: answers what the page asks it. */
import type { TrialQuestion } from '@nettle-patch/core';
import { TrialRunner } from './runner';

const runner = new TrialRunner(new URL('.', self.location.href).href);
let last: Promise<unknown> = Promise.resolve();
self.addEventListener('message', ({ data }: MessageEvent<TrialQuestion>) => {
  last = last.then(async () => self.postMessage(await runner.answer(data)));
});
