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
