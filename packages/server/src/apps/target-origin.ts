/** Thrown when an address given on the command line cannot be used. */
export class BadAddressError extends Error {
  override readonly name = 'BadAddressError';
}

/**
 * The origin of an address as people type it: "localhost:3000" is taken for "http://localhost:3000".
 * @throws BadAddressError
 */
export function targetOriginOf(address: string): string {
  const text = /^[a-z]+:\/\//i.test(address) ? address : `http://${address}`;
  const url = URL.canParse(text) ? new URL(text) : undefined;
  if (url === undefined || !['http:', 'https:'].includes(url.protocol) || url.hostname === '') {
    throw new BadAddressError(
      `"${address}" is no address of a web server. Expected something like http://localhost:3000.`,
    );
  }
  return url.origin;
}
