import { expect, it } from 'vitest';
import { fontFile } from './font-file';

const face = (family: string, weight: string, range: string, file: string) => ({
  style: {
    getPropertyValue: (name: string) =>
      ({
        'font-family': `"${family}"`,
        'font-weight': weight,
        'unicode-range': range,
        src: `url("${file}") format("woff2")`,
      })[name] ?? '',
  },
});
const sheet = (...rules: object[]) =>
  ({ href: 'http://localhost:4780/styles.css', cssRules: rules }) as unknown as CSSStyleSheet;

it('is the file of the regular weight that holds Latin letters', () => {
  const sheets = [
    sheet({}, face('Quay Sans', '400', 'U+0-FF, U+131', 'media/sans.woff2')),
    sheet(
      face('Quay Mono', '600', 'U+0-FF', 'media/mono-bold.woff2'),
      face('Quay Mono', '400', 'U+100-2BA', 'media/mono-more.woff2'),
      face('Quay Mono', '400', 'U+0000-00FF,U+0131', 'media/mono.woff2'),
    ),
  ];
  expect(fontFile('Quay Mono', sheets)).toBe('http://localhost:4780/media/mono.woff2');
  expect(fontFile('Quay Serif', sheets)).toBeUndefined();
});
