/**
 * The page in which a trial runs. It makes a fresh worker, or a fresh frame, for each start, and passes questions on to it:
 * those of a scripted browser come by a call of `nettlePatchTrial`, those of the interface by a message port.
 */
import { ENDLESS, type TrialAnswer, type TrialPlace, type TrialQuestion } from '@nettle-patch/core';

/** Where the alternatives are in a start. */
interface Place {
  ask(question: TrialQuestion): Promise<TrialAnswer>;
  end(): void;
}

const base = new URL('.', location.href).href;

function workerPlace(): Place {
  const worker = new Worker(`${base}worker.js`, { type: 'module' });
  return {
    ask: (question) =>
      new Promise((resolve) => {
        worker.onmessage = ({ data }: MessageEvent<TrialAnswer>) => resolve(data);
        worker.onerror = (event) => {
          event.preventDefault();
          resolve({ problem: { kind: 'threw', message: event.message || 'the worker could not be loaded' } });
        };
        worker.postMessage(question);
      }),
    end: () => worker.terminate(),
  };
}

function framePlace(): Place {
  const frame = document.createElement('iframe');
  frame.src = `${base}frame.html`;
  const loaded = new Promise<void>((resolve) => {
    frame.onload = () => resolve();
  });
  document.body.append(frame);
  return {
    async ask(question) {
      await loaded;
      const { nettlePatchRunner } = frame.contentWindow as unknown as {
        nettlePatchRunner: { answer(question: TrialQuestion): Promise<TrialAnswer> };
      };
      return nettlePatchRunner.answer(question);
    },
    end: () => frame.remove(),
  };
}

const MAKERS: Readonly<Record<TrialPlace, () => Place>> = { worker: workerPlace, page: framePlace };
let place: Place | undefined;

function endPlace(): void {
  place?.end();
  place = undefined;
}

/** Asks the place of this start; one that does not answer in time is ended. */
async function ask(question: TrialQuestion): Promise<TrialAnswer> {
  if (question.do === 'begin') {
    endPlace();
    place = MAKERS[question.place]();
  }
  if (place === undefined) return { problem: ENDLESS };
  let timer = 0;
  const late = new Promise<TrialAnswer>((resolve) => {
    timer = window.setTimeout(() => {
      endPlace();
      resolve({ problem: ENDLESS });
    }, question.limitMs);
  });
  const answer = await Promise.race([place.ask(question), late]);
  window.clearTimeout(timer);
  return answer;
}

Object.assign(window, { nettlePatchTrial: { ask } });

/** What comes through the port: a question, or to be busy, by which the interface finds out whether that stops it too. */
interface Asked {
  readonly id: number;
  readonly question?: TrialQuestion;
  readonly busyMs?: number;
}

/** The interface hands over a port, once; what comes through it is asked. */
window.addEventListener(
  'message',
  ({ ports }) => {
    const [port] = ports;
    if (port === undefined) return;
    port.onmessage = ({ data: { id, question, busyMs = 0 } }: MessageEvent<Asked>) => {
      const untilMs = performance.now() + busyMs;
      while (performance.now() < untilMs);
      const answer = question === undefined ? Promise.resolve({}) : ask(question);
      void answer.then((given) => port.postMessage({ id, answer: given }));
    };
    port.postMessage({ id: 0, answer: {} });
  },
  { once: true },
);
