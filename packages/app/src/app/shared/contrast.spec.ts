import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

const styles = readFileSync(new URL('../../styles.scss', import.meta.url), 'utf8');

/** Colours of each theme, by their names in the style sheet: the first block is light, the second dark. */
function themes(): readonly [name: string, colours: ReadonlyMap<string, string>][] {
  const found = [...styles.matchAll(/--([a-z-]+): (#[0-9a-f]{6});/g)].map(
    ([, name, value]) => [name!, value!] as const,
  );
  const second = found.findIndex(([name], at) => at > 0 && name === 'paper');
  return [
    ['light', new Map(found.slice(0, second))],
    ['dark', new Map(found.slice(second))],
  ];
}

/** Relative luminance (WCAG 2.2). */
function luminance(colour: string): number {
  const [red, green, blue] = [1, 3, 5].map((at) => {
    const part = parseInt(colour.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

function contrast(a: string, b: string): number {
  const [dark, light] = [luminance(a), luminance(b)].sort((one, other) => one - other) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** Words, and what they stand on, in the style sheet and on canvas. */
const WORDS = [
  ...['paper', 'panel', 'shade', 'nettle-soft', 'notice'].map((ground) => ['ink', ground]),
  ...['paper', 'panel', 'shade'].map((ground) => ['soft', ground]),
  ...['paper', 'panel', 'sting-soft'].map((ground) => ['sting', ground]),
  ...['paper', 'panel', 'nettle-soft'].map((ground) => ['nettle', ground]),
  ...['waiting-soft', 'sting-soft', 'drawing', 'waiting', 'script-library'].map((ground) => ['ink', ground]),
  ['on-nettle', 'nettle'],
  ['ink', 'other'],
  ['on-script-own', 'script-own'],
  ['on-script-library', 'script-library'],
  ['on-handling', 'handling'],
] as const;

/** Lines and marks on the ground of the page. */
const MARKS = [
  ...['script-own', 'script-library', 'style', 'layout', 'paint', 'collection', 'other'],
  ...['sting', 'waiting', 'handling', 'drawing', 'edge', 'nettle'],
];

describe.each(themes())('contrast in the %s theme', (_, colours) => {
  const of = (name: string) => {
    const colour = colours.get(name);
    if (colour === undefined) throw new Error(`there is no colour --${name}`);
    return colour;
  };

  it('is at least 4.5 to 1 for words', () => {
    const low = WORDS.map(([words, ground]) => [words, ground, contrast(of(words!), of(ground!))] as const)
      .filter(([, , ratio]) => ratio < 4.5)
      .map(([words, ground, ratio]) => `${words} on ${ground}: ${ratio.toFixed(2)}`);
    expect(low).toEqual([]);
  });

  it('is at least 3 to 1 for lines and marks', () => {
    const low = MARKS.map((mark) => [mark, contrast(of(mark), of('paper'))] as const)
      .filter(([, ratio]) => ratio < 3)
      .map(([mark, ratio]) => `${mark}: ${ratio.toFixed(2)}`);
    expect(low).toEqual([]);
  });
});
