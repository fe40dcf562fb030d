import { functionSites } from '@nettle-patch/core';
import { isRunType } from '../rewriting/script-answer';
import { RewritingStream } from 'parse5-html-rewriting-stream';

/** Everything but line ends. */
const WRITTEN = /[^\r\n\u2028\u2029]/g;
const blank = (text: string) => text.replace(WRITTEN, ' ');

/**
 * A script of a page with nothing but its functions, each where it was: what stands outside of them is what the page was
 * made for, such as the state it begins with, and is not kept.
 */
export function functionsOnly(script: string): string {
  let text = '';
  let end = 0;
  for (const site of functionSites(script) ?? []) {
    if (site.start < end) continue;
    text += blank(script.slice(end, site.start)) + script.slice(site.start, site.end);
    end = site.end;
  }
  return text + blank(script.slice(end));
}

/** The functions of the scripts that stand in a page, each where it was, and nothing else of the page. */
export function codeOfPage(html: string): string {
  const parser = new RewritingStream();
  let text = '';
  let end = 0;
  let isScript = false;
  parser.on('startTag', ({ tagName, attrs }) => {
    const type = attrs.find(({ name }) => name === 'type')?.value ?? '';
    isScript = tagName === 'script' && isRunType(type);
  });
  parser.on('endTag', () => (isScript = false));
  parser.on('text', ({ sourceCodeLocation: at }) => {
    if (!isScript || at == null) return;
    text += blank(html.slice(end, at.startOffset)) + functionsOnly(html.slice(at.startOffset, at.endOffset));
    end = at.endOffset;
  });
  parser.end(html);
  return text + blank(html.slice(end));
}

/** A source map without all but the functions of the scripts whose texts it carries. */
export function mapWithFunctionsOnly(map: string): string {
  const parsed = JSON.parse(map) as { sourcesContent?: unknown } | null;
  const { sourcesContent: texts } = parsed ?? {};
  // What is no text carries no function.
  const sourcesContent = Array.isArray(texts)
    ? texts.map((text: unknown) => (typeof text === 'string' ? functionsOnly(text) : null))
    : undefined;
  return JSON.stringify({ ...parsed, sourcesContent });
}
