/** Query parameters that name a version of a file and are needed to fetch the same one again. */
const VERSION_PARAMETERS = new Set(['v', 'ver', 'version', 't', 'hash', 'import', 'direct']);

const SHORT_URL = 1000;

function parse(url: string): URL | undefined {
  try {
    return new URL(url, location.href);
  } catch {
    return undefined;
  }
}

/** An address without query, fragment and credentials, none of which are ever recorded. */
export function plainAddress(url: string): string {
  const parsed = parse(url);
  if (parsed === undefined) return '';
  if (parsed.protocol === 'data:' || parsed.protocol === 'blob:') return parsed.protocol;
  return `${parsed.origin}${parsed.pathname}`.slice(0, SHORT_URL);
}

/** The address of a script, with no more of its query than says which version of the file it is. */
export function scriptAddress(url: string): string {
  const parsed = parse(url);
  const plain = plainAddress(url);
  if (parsed === undefined || plain === '') return plain;
  const kept = [...parsed.searchParams].filter(([name]) => VERSION_PARAMETERS.has(name));
  return kept.length === 0 ? plain : `${plain}?${new URLSearchParams(kept).toString()}`;
}
