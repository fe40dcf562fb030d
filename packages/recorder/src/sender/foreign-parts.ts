import type { Target } from '@nettle-patch/core';
import type { LoadedParts } from '../messages';

/** As many are told of at most, as the protocol has it. */
const MAX_FOREIGN = 20;
/** Asked for by script, which says itself whether cookies go with it. */
const BY_SCRIPT = /^(?:fetch|xmlhttprequest|beacon)http/;

/** What a page holds from other origins, by what it has loaded so far. */
export function foreignParts(url: string, { loadedFrames, loadedFiles }: LoadedParts): Target['foreign'] {
  const own = new URL(url).origin;
  const origins = loadedFiles
    .filter((file) => !BY_SCRIPT.test(file))
    .flatMap((file) => /^[a-z]+?(https?:\/\/[^/]*)/.exec(file)?.[1] ?? [])
    .filter((origin) => origin !== own);
  return { frames: loadedFrames.slice(0, MAX_FOREIGN), origins: [...new Set(origins)].slice(0, MAX_FOREIGN) };
}
