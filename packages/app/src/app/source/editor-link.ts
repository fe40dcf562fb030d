import { editorTemplateProblem } from '../../store/preferences';

/** A place in a file. */
export interface FilePlace {
  readonly file: string;
  readonly line: number;
  readonly column?: number;
}

/** The link that opens a place in a person's editor; undefined where no usable template is set. */
export function editorLink(template: string, { file, line, column = 1 }: FilePlace): string | undefined {
  if (template === '' || editorTemplateProblem(template) !== undefined) return undefined;
  const path = file.split('/').map(encodeURIComponent).join('/');
  return template
    .replaceAll('{file}', () => path)
    .replaceAll('{line}', String(line))
    .replaceAll('{column}', String(column));
}
