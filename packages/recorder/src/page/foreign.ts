import { framesElsewhere } from './frames-elsewhere';

/** As many are told of at most, as the protocol has it. */
const MAX_FOREIGN = 20;

/** What the page holds from other origins, as far as it has loaded by now. */
export function foreignParts(): { frames: string[]; origins: string[] } {
  const origins = performance
    .getEntriesByType('resource')
    .filter((entry) => !/fetch|request|beacon/.test((entry as PerformanceResourceTiming).initiatorType))
    .map(({ name }) => new URL(name).origin)
    .filter((origin) => origin !== location.origin && origin.startsWith('http'));
  return {
    frames: framesElsewhere().slice(0, MAX_FOREIGN),
    origins: [...new Set(origins)].slice(0, MAX_FOREIGN),
  };
}
