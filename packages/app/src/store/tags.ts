const MAX_TAG = 40;
const MAX_TAGS = 12;

/** @param typed tags as a person gives them. @returns without empty ones and repeats, each and all of bounded length */
export function cleanTags(typed: readonly string[]): string[] {
  const clean = typed.map((tag) => tag.trim().slice(0, MAX_TAG)).filter((tag) => tag !== '');
  return [...new Set(clean)].slice(0, MAX_TAGS);
}
