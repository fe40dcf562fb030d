import { keepIntegrity } from './exact/integrity';
import { provideCalls } from './page/exact/provided';
import { shared } from './page/shared';

document.currentScript?.remove();
const { exact } = shared;
shared.exact = undefined;
if (exact !== undefined) provideCalls(exact.ring, exact.register);
keepIntegrity();
