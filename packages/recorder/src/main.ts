import { startPage } from './page/start';
import { startSender } from './sender/start';

/** The recorder is one file: run as a page's script it records, run as a worker it sends what was recorded. */
if (typeof document === 'undefined') startSender();
else startPage();
