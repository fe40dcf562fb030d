import type { Header } from '@nettle-patch/core';

/** Event Timing, and the recorder's own listeners that replace it. */
const INPUTS = ['event', 'input-listeners'];
const LONG_TASKS = ['longtask', 'long-animation-frame'];

/** Whether the browser reported the delay of inputs. */
export function seesInputs({ available }: Pick<Header, 'available'>): boolean {
  return INPUTS.some((source) => available.includes(source));
}

/** Whether the browser reported long tasks. */
export function seesLongTasks({ available }: Pick<Header, 'available'>): boolean {
  return LONG_TASKS.some((source) => available.includes(source));
}

/** Whether it reported neither, so that a recording without a sting says nothing about delays. */
export function isBlind(header: Pick<Header, 'available'>): boolean {
  return !seesInputs(header) && !seesLongTasks(header);
}
