import { isRunType } from '../rewriting/script-answer';

/** Gives the rewritten text of a script that stands in a page. @param place what is added to the page's address */
export type InlineRewriter = (script: { text: string; isModule: boolean }, place: string) => Promise<string>;

interface StartTag {
  readonly tagName: string;
  attrs: { name: string; value: string }[];
}

/** Finds the scripts that stand in a page and has them rewritten; the text is given as bytes (latin1). */
export class InlineScripts {
  #text: string | undefined;
  #isModule = false;
  #isImportMap = false;
  #line = 0;
  #count = 0;

  constructor(private readonly rewrite: InlineRewriter) {}

  startTag(token: StartTag, raw: string): void {
    this.passes(raw);
    if (token.tagName !== 'script') return;
    const type = token.attrs.find(({ name }) => name === 'type')?.value.trim() ?? '';
    const isInline = !token.attrs.some(({ name }) => name === 'src');
    this.#isImportMap = /^importmap$/i.test(type);
    if (!isInline || !(isRunType(type) || this.#isImportMap)) return;
    this.#text = '';
    this.#isModule = /^module$/i.test(type);
  }

  /** Length of the script that is kept back. */
  get keptLength(): number {
    return this.#text?.length ?? 0;
  }

  /** What was kept back of a script that is to pass as it is. */
  giveUp(): string {
    const text = this.#text ?? '';
    this.#text = undefined;
    return text;
  }

  /** Counts the lines of what is passed on. */
  passes(raw: string): void {
    this.#line += raw.split('\n').length - 1;
  }

  /** Whether a text belongs to a script, and so is kept back until its end. */
  takes(raw: string): boolean {
    if (this.#text === undefined) {
      this.passes(raw);
      return false;
    }
    this.#text += raw;
    return true;
  }

  /** The rewritten text of the script that ends here; nothing where none does. */
  endTag(): string | Promise<string> | undefined {
    const bytes = this.#text;
    this.#text = undefined;
    if (bytes === undefined || bytes.trim() === '') return bytes;
    const text = Buffer.from(bytes, 'latin1').toString('utf8');
    const isReadable = Buffer.from(text, 'utf8').toString('latin1') === bytes;
    const before = '\n'.repeat(this.#line);
    this.passes(bytes);
    if (!isReadable) return bytes;
    if (this.#isImportMap) return withoutIntegrity(bytes);
    return this.rewrite({ text: before + text, isModule: this.#isModule }, `#inline-${++this.#count}`).then(
      (code) => Buffer.from(code.slice(before.length), 'utf8').toString('latin1'),
    );
  }

  /** Takes from a script the hash of its very bytes (W3C Subresource Integrity), as it will have others. */
  drops(token: StartTag): boolean {
    const attributes = token.attrs.filter(({ name }) => name !== 'integrity');
    if (!loadsScript(token) || attributes.length === token.attrs.length) return false;
    token.attrs = attributes;
    return true;
  }
}

function loadsScript({ tagName, attrs }: StartTag): boolean {
  const valueOf = (wanted: string) => attrs.find(({ name }) => name === wanted)?.value.toLowerCase() ?? '';
  if (tagName === 'script') return true;
  const relations = tagName === 'link' ? valueOf('rel').split(/\s+/) : [];
  return relations.includes('modulepreload') || (relations.includes('preload') && valueOf('as') === 'script');
}

/** An import map without the hashes of what it maps to (HTML, section 8.1.5); as it was, where it is none. */
function withoutIntegrity(text: string): string {
  try {
    const { integrity, ...map } = JSON.parse(text) as { integrity?: unknown };
    return integrity === undefined ? text : JSON.stringify(map).replaceAll('<', '\\u003c');
  } catch {
    return text;
  }
}
