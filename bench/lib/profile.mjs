/** Which functions the time of some work is spent in, by the sampling of the engine the benchmark itself runs on. */
import { Session } from 'node:inspector';

const INTERVAL_US = 200;
const MAX = 8;

/** @returns the functions with the most time of their own: name, line of the built file, share of the whole (0 to 1) */
export function profileOf(work) {
  const session = new Session();
  session.connect();
  let profile;
  const ask = (method, parameters = {}, take = () => undefined) =>
    session.post(method, parameters, (error, answer) => {
      if (error) throw error;
      take(answer);
    });
  ask('Profiler.enable');
  ask('Profiler.setSamplingInterval', { interval: INTERVAL_US });
  ask('Profiler.start');
  work();
  ask('Profiler.stop', {}, (answer) => (profile = answer.profile));
  session.disconnect();
  return sharesOf(profile);
}

function sharesOf({ nodes, samples, timeDeltas }) {
  const nameOf = new Map(
    nodes.map(({ id, callFrame: { functionName, lineNumber } }) => [
      id,
      functionName.startsWith('(') ? functionName : `${functionName || 'anonymous'} (line ${lineNumber + 1})`,
    ]),
  );
  const timeOf = new Map();
  let total = 0;
  samples.forEach((node, at) => {
    const name = nameOf.get(node);
    if (name === '(idle)' || name.startsWith('dispatch (')) return;
    total += timeDeltas[at];
    timeOf.set(name, (timeOf.get(name) ?? 0) + timeDeltas[at]);
  });
  return [...timeOf]
    .map(([name, time]) => ({ name, share: time / total }))
    .sort((a, b) => b.share - a.share)
    .slice(0, MAX);
}
