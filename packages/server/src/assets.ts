import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** Files that other packages build and the server hands out, as paths from the built server. */
const BUILT = {
  recorder: '../../recorder/dist/recorder.js',
  sender: '../../recorder/dist/sender.js',
  fine: '../../recorder/dist/fine.js',
  rewritten: '../../recorder/dist/rewritten.js',
  module: '../../recorder/dist/module.js',
  tag: '../../recorder/dist/tag.js',
  tagOthers: '../../recorder/dist/tag-others.js',
  sign: '../../recorder/dist/sign.js',
  holder: '../../recorder/dist/holder.js',
  blink: '../../recorder/dist/blink.js',
  frame: '../../recorder/dist/frame.js',
  listeners: '../../recorder/dist/listeners.js',
  steps: '../../recorder/dist/steps.js',
  worker: '../../recorder/dist/worker.js',
  trialPage: '../../trial/dist/page.js',
  trialFrame: '../../trial/dist/frame.js',
  trialWorker: '../../trial/dist/worker.js',
  phone: '../../demo/dist/phone.js',
  rewriting: '../dist/rewriting-thread.js',
  sharing: '../dist/sharing-thread.js',
  interface: '../../app/dist/browser',
} as const;

/**
 * Path of a built part of the product.
 * @throws Error with what to do when it has not been built.
 */
export function builtPath(part: keyof typeof BUILT): string {
  const path = fileURLToPath(new URL(BUILT[part], import.meta.url));
  if (!existsSync(path)) throw new Error(`The ${part} is not built yet. Run "npm run build" first.`);
  return path;
}
