import { showAsWritten } from './exact/as-written';
import { keepIntegrity } from './exact/integrity';
import { tellOfWaiting } from './exact/waiting-sign';
import { provideCalls } from './page/exact/provided';
import type { ExactTools } from './page/host';
import { shared } from './page/shared';

document.currentScript?.remove();
const exact = shared.exact as ExactTools | undefined;
shared.exact = undefined;
if (exact !== undefined) {
  const { ring, registerScript } = exact;
  const putAway = tellOfWaiting();
  provideCalls(ring, (firstId, registration) => {
    putAway();
    registerScript(firstId, registration);
    showAsWritten();
  });
}
keepIntegrity();
