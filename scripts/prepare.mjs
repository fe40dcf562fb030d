/** Gets a checkout ready to run: installs and builds what is not there, or has changed. */
import { prepare } from './lib/prepare.mjs';

prepare();
