/**
 * An address of an app by its path. A path may begin with two slashes, or with a backslash: it is one all the same, and
 * names no host (URL Standard, section 4.1, would take it for one).
 */
export function atOrigin(origin: string, path: string): URL {
  return new URL(`${origin}${path.startsWith('/') || path.startsWith('\\') ? '' : '/'}${path}`);
}

/** An address without query and fragment. */
export function withoutQuery(url: string): string {
  return url.replace(/[?#].*$/, '');
}
