import { provideCalls } from './page/exact/provided';
import { createTimedCalls } from './page/exact/timed-calls';
import type { FineSamples } from './page/fine/fine-samples';
import type { RewrittenTools } from './page/host';
import { shared } from './page/shared';
import { showAsWritten } from './rewritten/as-written';
import { keepIntegrity } from './rewritten/integrity';
import { tellOfWaiting } from './rewritten/waiting-sign';

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
      functionCount === undefined
        ? registration
        : (shared.fine as FineSamples).register(tools.ring, firstId, registration, functionCount),
    );
    showAsWritten();
  });
}
keepIntegrity();
