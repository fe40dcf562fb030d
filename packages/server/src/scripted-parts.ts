import { replaysPart } from './drive/replays-part';
import { versusPart } from './drive/versus-part';
import type { ServeOptions } from './serve';
import { trialsPart } from './trials/trials-part';

/** All that the interface may ask of browsers of this machine. */
export const scriptedParts: NonNullable<ServeOptions['parts']> = (targetFor, targetOf) => [
  replaysPart(targetFor),
  versusPart(targetFor, targetOf),
  trialsPart(targetFor),
];
