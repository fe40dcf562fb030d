import type { RecordedFunction } from '../recording/functions';
import type { Source } from '../recording/sources';
import { first, last } from '../lists/items';

/** The package behind a path that a package manager made; the last one, as packages may hold others. */
const PACKAGE = /(?:^|\/)node_modules\/((?:@[^/]+\/)?[^/]+)/g;
/** A file that a dev server made of one package, its slashes written as underscores. */
const PREBUNDLED = /\/deps\/(@?[^/_]+(?:_[^/.]+)?)\.m?js/;

/** The name of the library that a function belongs to, as people know it; the name of its file where no package is. */
export function libraryName(recorded: RecordedFunction | undefined, source: Source | undefined): string {
  const path = recorded?.originalFile ?? source?.url ?? '';
  const inPackage = [...path.matchAll(PACKAGE)]
    .map(([, name]) => name!)
    .filter((name) => !name.startsWith('.'));
  if (inPackage.length > 0) return last(inPackage);
  const prebundled = PREBUNDLED.exec(path)?.[1];
  if (prebundled !== undefined && !prebundled.startsWith('chunk-')) {
    const parts = prebundled.split('_');
    return prebundled.startsWith('@') ? parts.slice(0, 2).join('/') : first(parts);
  }
  return path.split(/[?#]/, 1)[0]!.split('/').at(-1) || 'a library';
}
