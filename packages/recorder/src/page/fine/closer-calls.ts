import type { ScriptRegistration } from '@nettle-patch/core';
import { callerEvent, type CallEventBuffer } from '../exact/call-event-buffer';
import type { LookSampler } from './look-sampler';

/** Callers that are told around a call, at most; those further out are left out. */
const MAX_CALLERS = 200;

/** The place of a function as "file:line" or "file:line:column"; undefined for a text that is none. */
function placeOf(text: string): { file: string; line: number; column: number | undefined } | undefined {
  const found = /^(.+?):(\d+)(?::(\d+))?$/.exec(text);
  if (found === null) return undefined;
  const [, file, line, column] = found;
  return { file: file!, line: Number(line), column: column === undefined ? undefined : Number(column) };
}

/** Index of the function at a place among those of a script; of several on a line, that with the nearest column. */
function indexOf(place: string, { files, functions }: ScriptRegistration): number | undefined {
  const wanted = placeOf(place);
  if (wanted === undefined) return undefined;
  let nearest: number | undefined;
  let leastOff = Infinity;
  functions.forEach(([, file, line, column], index) => {
    if (index === 0 || files[file] !== wanted.file || line !== wanted.line) return;
    const off = Math.abs(column - (wanted.column ?? 0));
    if (off < leastOff) [nearest, leastOff] = [index, off];
  });
  return nearest;
}

/** Records the calls of one function, and all that they call, exactly, while all else is sampled. */
export interface CloserCalls {
  /**
   * Looks for the function among those of a script.
   * @returns the registration, in which it is noted what was looked for, and the function where it is one of them
   */
  register(firstId: number, registration: string): string;
}

/**
 * @param sampler gets its entries by way of this from now on
 * @param ring takes exact calls
 * @param place of the function: "file:line" or "file:line:column", in its original source
 */
export function closerCalls(
  sampler: Pick<LookSampler, 'calls' | 'enter' | 'leaveWaiting' | 'unwind'>,
  ring: CallEventBuffer,
  place: string,
): CloserCalls {
  const { calls } = sampler;
  const { enter } = sampler;
  const leave = sampler.leaveWaiting.bind(sampler);
  const unwind = sampler.unwind.bind(sampler);
  const ids: number[] = [];
  /** How deep the outermost call of the function is that runs; 0 while none does. */
  let since = 0;
  /** How many callers were told around it. */
  let callers = 0;

  const begin = (depth: number) => {
    since = depth;
    const first = Math.max(1, depth - MAX_CALLERS);
    callers = depth - first;
    const ms = ring.now();
    for (let at = first; at < depth; at++) ring.enterAt(callerEvent(calls[at]!), ms);
  };
  const end = () => {
    since = 0;
    const ms = ring.now();
    for (; callers > 0; callers--) ring.leaveAt(ms);
  };

  sampler.enter = (id) => {
    const depth = enter(id);
    if (since === 0 && ids.includes(id)) begin(depth);
    if (since !== 0) ring.enterAt(id, ring.now());
    return depth;
  };
  sampler.leaveWaiting = () => {
    if (since !== 0) {
      ring.leaveAt(ring.now());
      if (calls[0]! <= since) end();
    }
    return leave();
  };
  sampler.unwind = () => {
    since = callers = 0;
    unwind();
  };
  return {
    register(firstId, registration) {
      const script = JSON.parse(registration) as ScriptRegistration;
      const closer = indexOf(place, script);
      if (closer !== undefined) ids.push(firstId + closer);
      return JSON.stringify({ ...script, closer, lookedFor: place });
    },
  };
}
