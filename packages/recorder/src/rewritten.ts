import { provideCalls } from './page/exact/provided';
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
  const { ring, registerScript } = tools;
  const putAway = tellOfWaiting();
  provideCalls(ring, (firstId, registration, functionCount) => {
    putAway();
    if (functionCount !== undefined) (shared.fine as FineSamples).counts.add(firstId, functionCount);
    registerScript(firstId, registration);
    showAsWritten();
  });
}
keepIntegrity();
