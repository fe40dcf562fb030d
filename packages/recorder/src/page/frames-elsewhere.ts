import { plainAddress } from './address';
import { elementLabel } from './element-label';

/** The frames of the page that are of other origins, and cannot be recorded as parts of it, in words. */
export function framesElsewhere(): string[] {
  return [...document.querySelectorAll('iframe')]
    .filter(({ contentDocument }) => !contentDocument)
    .map((frame) => {
      const address = plainAddress(frame.src);
      return elementLabel(frame) + (address.startsWith('http') ? ` of ${new URL(address).origin}` : '');
    });
}
