import { vi } from 'vitest';
import type * as assets from '../assets';

const { builtPath: path } = await vi.importActual<typeof assets>('../assets');

/** For tests of a checkout in which nothing but what units need is built: any file that is there stands for the rest. */
export function builtPath(part: Parameters<typeof assets.builtPath>[0]): string {
  return part === 'rewriting' ? path(part) : import.meta.filename;
}
