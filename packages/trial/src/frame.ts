/** A trial in a page of its own, which has elements: answers what the page around it asks. */
import { TrialRunner } from './runner';

const runner = new TrialRunner(new URL('.', location.href).href);
Object.assign(window, { nettlePatchRunner: runner });
