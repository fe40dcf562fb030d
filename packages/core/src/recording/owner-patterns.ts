import type { Owner, RecordedFunction } from './functions';
import type { Recording } from './recording';

/** Paths by whose code is in them, with `*` for a part of a path and `**` for any number of parts. */
export interface OwnerPatterns {
  readonly own: readonly string[];
  readonly library: readonly string[];
}

/** Whether a path fits a pattern; one that begins in the middle of a path fits too: "vendor/**". */
export function fitsPattern(path: string, pattern: string): boolean {
  const source = pattern
    .split(/(\*\*\/?|\*)/)
    .map((part) => {
      if (part === '*') return '[^/]*';
      return part.startsWith('**') ? '.*' : part.replace(/[.+?^${}()|[\]\\]/g, '\\$&');
    })
    .join('');
  return new RegExp(`(^|/)${source}$`).test(path);
}

/**
 * The same recording with its functions owned as the patterns say; what fits none stays as it is.
 * Own patterns win over those of libraries.
 */
export function withOwners(recording: Recording, { own, library }: OwnerPatterns): Recording {
  if (own.length === 0 && library.length === 0) return recording;
  const known = new Map<string, Owner | undefined>();
  const ownerOfPath = (path: string): Owner | undefined => {
    if (own.some((pattern) => fitsPattern(path, pattern))) return 'own';
    return library.some((pattern) => fitsPattern(path, pattern)) ? 'library' : undefined;
  };
  const functions = new Map<number, RecordedFunction>();
  for (const [id, recorded] of recording.functions) {
    const url = recorded.source === undefined ? undefined : recording.sources.get(recorded.source)?.url;
    const path = recorded.originalFile ?? url;
    let owner = path === undefined ? undefined : known.get(path);
    if (path !== undefined && !known.has(path)) known.set(path, (owner = ownerOfPath(path)));
    functions.set(id, owner === undefined ? recorded : { ...recorded, owner });
  }
  return { ...recording, functions };
}
