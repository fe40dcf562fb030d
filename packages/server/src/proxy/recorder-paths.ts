import type { IncomingMessage } from 'node:http';
import {
  BLINK_PATH,
  FINE_PATH,
  FRAME_PATH,
  HOLDER_PATH,
  LISTENERS_PATH,
  RECORDER_PATH,
  REWRITTEN_PATH,
  STEPS_PATH,
  type ProxySettings,
} from '@nettle-patch/core';
import { isForFrame } from './html-answer';

const isGecko = (agent: string) => /\bGecko\/\d/.test(agent);
/** Whether a browser is known to take no samples of call stacks. */
export const takesNoSamples = (agent: string) =>
  isGecko(agent) || (/AppleWebKit\/\d/.test(agent) && !isBlink(agent));
/** Whether a browser is of the family that has a file of its own. */
export const isBlink = (agent: string) => /Chrom(e|ium)\/\d/.test(agent);

/**
 * Paths of the recorder's files that a page gets, in their order: the recorder takes what those before it offer, and
 * what comes after it stands on what it has done.
 * @param ofPage further files of a whole page
 */
export function recorderPaths(
  request: IncomingMessage,
  { steps, mode }: ProxySettings,
  ofPage: readonly string[] = [],
): string[] {
  const agent = request.headers['user-agent'] ?? '';
  const whole = [
    ...(steps === 'off' ? [] : [STEPS_PATH]),
    ...(isBlink(agent) ? [BLINK_PATH] : []),
    ...ofPage,
  ];
  return [
    ...(isForFrame(request) ? [FRAME_PATH] : whole),
    ...(isBlink(agent) ? [] : [LISTENERS_PATH]),
    ...(isGecko(agent) ? [HOLDER_PATH] : []),
    ...(mode === 'fine' ? [FINE_PATH] : []),
    RECORDER_PATH,
    ...(mode === 'everyday' ? [] : [REWRITTEN_PATH]),
  ];
}
