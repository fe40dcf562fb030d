import type { Header } from '@nettle-patch/core';

const INPUTS = 'event';
const LONG_TASKS = ['longtask', 'long-animation-frame'];

/** Whether the browser reported the delay of inputs. */
export function seesInputs({ available }: Pick<Header, 'available'>): boolean {
  return available.includes(INPUTS);
}

/** Whether the browser reported long tasks. */
export function seesLongTasks({ available }: Pick<Header, 'available'>): boolean {
  return LONG_TASKS.some((source) => available.includes(source));
}

/** Whether it reported neither, so that a recording without a sting says nothing about delays. */
export function isBlind(header: Pick<Header, 'available'>): boolean {
  return !seesInputs(header) && !seesLongTasks(header);
}
