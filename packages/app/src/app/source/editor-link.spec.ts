import { describe, expect, it } from 'vitest';
import { editorLink } from './editor-link';

const PLACE = { file: 'src/deck plan/trim.ts', line: 41, column: 3 };

describe('the link to an editor', () => {
  it('holds the place, written so that nothing of it can be more than a path', () => {
    expect(editorLink('editor://open?file=/home/me/{file}&line={line}&column={column}', PLACE)).toBe(
      'editor://open?file=/home/me/src/deck%20plan/trim.ts&line=41&column=3',
    );
    const hostile = { file: '../x?line=1&$&run=#{line}', line: 2 };
    expect(editorLink('editor://open?file={file}&line={line}', hostile)).toBe(
      'editor://open?file=../x%3Fline%3D1%26%24%26run%3D%23%7Bline%7D&line=2',
    );
  });

  it.each([
    'javascript:alert({file})',
    'JavaScript:{file}',
    'data:text/html,{file}',
    'file:///{file}',
    '{file}',
  ])('is not made from %s', (template) => {
    expect(editorLink(template, PLACE)).toBeUndefined();
  });

  it('is not made without a template, or without the place of the file in it', () => {
    expect(editorLink('', PLACE)).toBeUndefined();
    expect(editorLink('editor://open', PLACE)).toBeUndefined();
  });
});
