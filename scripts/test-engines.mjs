/** `npm run test:engines`: browser tests in Firefox and WebKit, and those that have to wait in real time. */
import { checkNode, install } from './lib/prepare.mjs';
import { ensureChromium, ensureOthers } from './lib/browsers-here.mjs';
import { Steps } from './lib/steps.mjs';

checkNode();
install();
ensureChromium();
ensureOthers();
const steps = new Steps();
await steps.step('build', [process.execPath, 'scripts/prepare.mjs']);
await steps.browser('engines', 3);
await steps.browser('engines-timed', 1);
steps.end('summary-engines.txt');
