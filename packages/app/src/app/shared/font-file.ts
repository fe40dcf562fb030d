/** A range that begins with the first of all characters: the file of a font that has it is the one that figures need. */
const LATIN = /U\+0+(?:-|,|$)/i;
const REGULAR = '400';

/** Address of the file of a font of the page's style sheets, in its regular weight and for Latin; undefined where there is none. */
export function fontFile(
  name: string,
  sheets: Iterable<CSSStyleSheet> = document.styleSheets,
): string | undefined {
  for (const sheet of sheets) {
    for (const rule of sheet.cssRules) {
      const { style } = rule as CSSRule & { readonly style?: CSSStyleDeclaration };
      const about = (property: string) => style?.getPropertyValue(property) ?? '';
      if (about('font-family').replaceAll(/["']/g, '') !== name || about('font-weight') !== REGULAR) continue;
      const range = about('unicode-range');
      const url = /url\("?([^")]+)"?\)/.exec(about('src'))?.[1];
      if (url !== undefined && (range === '' || LATIN.test(range)))
        return new URL(url, sheet.href ?? document.baseURI).href;
    }
  }
  return undefined;
}
