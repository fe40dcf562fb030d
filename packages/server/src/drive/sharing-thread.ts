import { workerData } from 'node:worker_threads';
import { groupsOf, signalGroups } from './process-groups';

/** How long programs run and stand still together, in turn. Milliseconds. */
const PERIOD_MS = 16;
/** Programs that start others meanwhile have them followed. Milliseconds. */
const REFRESH_MS = 500;

const { pid, factor } = workerData as { readonly pid: number; readonly factor: number };
const word = new Int32Array(new SharedArrayBuffer(4));
const sleep = (ms: number) => Atomics.wait(word, 0, 0, ms);

/**
 * Has programs run for one part in `factor` of the time: whatever they have run is stood still for, however long a turn
 * came to be.
 */
function share(): never {
  let groups = groupsOf(pid);
  let refreshedMs = performance.now();
  let wentOnMs = performance.now();
  let owedMs = 0;
  for (;;) {
    if (performance.now() - refreshedMs > REFRESH_MS) {
      groups = groupsOf(pid);
      refreshedMs = performance.now();
    }
    const restMs = PERIOD_MS / factor - (performance.now() - wentOnMs);
    if (restMs > 0) sleep(restMs);
    signalGroups(groups, 'SIGSTOP');
    const stoppedMs = performance.now();
    owedMs += (stoppedMs - wentOnMs) * (factor - 1);
    if (owedMs > 0) sleep(owedMs);
    signalGroups(groups, 'SIGCONT');
    wentOnMs = performance.now();
    owedMs = Math.max(-PERIOD_MS, owedMs - (wentOnMs - stoppedMs));
  }
}

share();
