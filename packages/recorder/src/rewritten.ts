import { provideCalls } from './page/exact/provided';
import { createTimedCalls } from './page/exact/timed-calls';
import { closerCalls } from './page/fine/closer-calls';
import type { FineSamples } from './page/fine/fine-samples';
import type { RewrittenTools } from './page/host';
import { shared } from './page/shared';
import { showAsWritten } from './rewritten/as-written';
import { keepIntegrity } from './rewritten/integrity';
import { tellOfWaiting } from './rewritten/waiting-sign';

/** Takes note of a script that was rewritten for fine mode. @returns what is told of it */
function inFineMode(
  { ring }: RewrittenTools,
  firstId: number,
  registration: string,
  functionCount: number,
): string {
  const fine = shared.fine as FineSamples;
  fine.counts.add(firstId, functionCount);
  if (fine.wanted === '') return registration;
  fine.closer ??= closerCalls(fine.sampler, ring, fine.wanted);
  return fine.closer.register(firstId, registration);
}

document.currentScript?.remove();
const tools = shared.rewritten as RewrittenTools | undefined;
shared.rewritten = undefined;
if (tools !== undefined) {
  const { registerScript } = tools;
  const putAway = tellOfWaiting();
  if (tools.timed === undefined) {
    tools.timed = createTimedCalls(tools.ring, tools.tell);
    tools.takeIn(tools.timed);
  }
  provideCalls(tools.timed, (firstId, registration, functionCount) => {
    putAway();
    registerScript(
      firstId,
      functionCount === undefined ? registration : inFineMode(tools, firstId, registration, functionCount),
    );
    showAsWritten();
  });
}
keepIntegrity();
