/** The comment that a text begins with. */
const FIRST_COMMENT = /^\s*\/\*([^]*?)\*\//;
const MAX = 4000;
/** A name and a version, as releases are called. */
const RELEASE = /([\p{L}\p{N}_.@/-]+)\s+v?\d+\.\d+\.\d+/u;
/** That anybody may use it, by the usual licences. */
const LICENCE =
  /@license|\blicen[cs]ed?\b|\b(?:MIT|BSD|ISC|Apache|MPL|GPL|LGPL)\b|permission is hereby granted/i;

const letters = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/**
 * Whether a script is a release of a library, by what it says of itself at its beginning: its name, which is the file's
 * too, its version, and a licence. An app's own build may begin with a name and a version, but gives nobody a licence.
 * @param url address of the script
 */
export function hasLibraryBanner(url: string, text: string): boolean {
  const banner = FIRST_COMMENT.exec(text.slice(0, MAX))?.[1];
  const name = banner && RELEASE.exec(banner)?.[1]?.replace(/\.js$/i, '');
  if (!banner || !name || !LICENCE.test(banner)) return false;
  const file = url.split(/[?#]/, 1)[0]!.split('/').at(-1)!;
  return letters(name) !== '' && letters(file).startsWith(letters(name));
}
