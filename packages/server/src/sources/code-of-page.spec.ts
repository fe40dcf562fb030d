import { expect, it } from 'vitest';
import { codeOfPage, mapWithFunctionsOnly } from './code-of-page';

const PAGE = `<!doctype html><title>secret-title</title><p onclick="f('secret-attribute')">secret-text</p>
<script>
window.state = {"name": "secret-state"};
function fold(name) { return name.trim(); }
const wide = (name) => name.toUpperCase();
</script><!-- secret-comment --><script type="application/json">{"k": "secret-data"}</script>
<script type="module">const s = 'secret-string'; export const last = () => 1;</script>secret-tail`;

it('keeps the functions of a page where they are, and nothing else of it', () => {
  const code = codeOfPage(PAGE);
  expect(code).not.toContain('secret');
  expect(code).toHaveLength(PAGE.length);
  expect(code.split('\n')).toHaveLength(PAGE.split('\n').length);
  for (const part of [
    'function fold(name) { return name.trim(); }',
    '(name) => name.toUpperCase()',
    '() => 1',
  ])
    expect(code.indexOf(part), part).toBe(PAGE.indexOf(part));
});

it('keeps no more of the texts that a map carries', () => {
  const map = {
    version: 3,
    sources: ['page', 'none'],
    sourcesContent: ["const s = 'secret'; f(() => 1);", null],
  };
  expect(JSON.parse(mapWithFunctionsOnly(JSON.stringify(map)))).toMatchObject({
    sourcesContent: [expect.stringMatching(/^ +\(\) => 1 +$/), null],
  });
});
