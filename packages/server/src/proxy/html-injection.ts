import { Transform } from 'node:stream';
import type { CaptureMode } from '@nettle-patch/core';
import { RewritingStream } from 'parse5-html-rewriting-stream';
import { adaptPolicy, type RecorderPermit } from './content-security-policy';
import { InlineScripts, type InlineRewriter } from './inline-scripts';
import { byteOrderMark } from './page-encoding';

export interface InjectionOptions extends RecorderPermit {
  /** What the recorder is told, as attributes of its elements. */
  readonly data: RecorderData;
  /** Whether the browser asked for a document; else only what is a whole document gets the recorder. */
  readonly document: boolean;
  /** Rewrites the scripts that stand in the text, where they are to be rewritten. */
  readonly rewriteInline?: InlineRewriter | undefined;
  /** Told where the rest of the text passes as it is, as a piece of it is too long to be kept. */
  readonly onTooLong?: () => void;
  /** Length that is kept at most. Bytes. */
  readonly mostKept?: number;
}

/** Attributes of the recorder's elements. */
export interface RecorderData {
  /** Secret the recorder shows when it connects. */
  readonly 'data-secret': string;
  /** Whether the page's scripts are rewritten, so that the recorder knows before the first of them runs. */
  readonly 'data-mode': CaptureMode;
  /** What is kept as steps. */
  readonly 'data-steps': 'places' | 'texts' | 'off';
  /** What controls are named by. */
  readonly 'data-labels': 'ids' | 'texts';
  /** Place of the function that is looked at closer. */
  readonly 'data-closer'?: string;
}

/** A single text, tag, comment or script in a page that is longer is not taken apart. Bytes. */
const MAX_KEPT = 16 * 2 ** 20;
/** Bytes of a mark of the byte order. */
const MAX_MARK = 3;

/** Start tags that may stand before the first script without being able to run one. */
const BEFORE_SCRIPTS = new Set(['html', 'head']);

function escapeAttribute(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}

/** The elements that load the recorder, blocking, before anything that comes after them. */
export function recorderElements({ scriptUrls, nonce, data }: InjectionOptions): string {
  const element = (src: string) => {
    const attributes = Object.entries({ src, nonce, ...data });
    const written = attributes.map(([name, value]) => `${name}="${escapeAttribute(value)}"`).join(' ');
    return `<script ${written}></script>`;
  };
  return scriptUrls.map(element).join('');
}

/**
 * Puts the recorder into an HTML text as its first script and adapts policies given in `meta` elements. Takes
 * and gives strings whose characters are the bytes of the text (latin1), so that every encoding which agrees
 * with ASCII passes unchanged; all else in the text stays as it is, byte for byte.
 */
export function injectRecorder(options: InjectionOptions): Transform {
  const stream = new PiecesOfText();
  const inline = options.rewriteInline && new InlineScripts(options.rewriteInline);
  let injected = false;
  let wholeDocument = options.document;

  const inject = () => {
    if (injected) return;
    injected = true;
    if (wholeDocument) stream.emitRaw(recorderElements(options));
  };

  stream.on('doctype', (_token, raw) => {
    wholeDocument = true;
    stream.emitRaw(raw);
  });
  stream.on('startTag', (token, raw) => {
    if (token.tagName === 'html') wholeDocument = true;
    if (!BEFORE_SCRIPTS.has(token.tagName)) inject();
    inline?.startTag(token, raw);
    const content = policyContent(token);
    if (content !== undefined && wholeDocument) {
      content.value = adaptPolicy(content.value, options);
      stream.emitStartTag(token);
    } else if (inline?.drops(token)) {
      stream.emitStartTag(token);
    } else {
      stream.emitRaw(raw);
    }
    if (token.tagName === 'head') inject();
  });
  stream.on('text', (_token, raw) => {
    if (raw.trim() !== '') inject();
    if (inline?.takes(raw)) return;
    stream.emitRaw(raw);
  });
  stream.on('endTag', (_token, raw) => {
    inject();
    const script = inline?.endTag();
    if (script !== undefined) stream.pieces.push(script);
    stream.emitRaw(raw);
  });
  stream.on('comment', (_token, raw) => {
    inline?.passes(raw);
    stream.emitRaw(raw);
  });
  return inOrder(stream, inline, options);
}

/** A token with the place where it ends in the text. */
interface Placed {
  readonly sourceCodeLocation?: { readonly endOffset: number } | null;
}

/** Keeps what it makes of a text, in order; some of it may come later. */
class PiecesOfText extends RewritingStream {
  pieces: (string | Promise<string>)[] = [];
  /** Length of the text that was taken apart so far. */
  takenTo = 0;

  constructor() {
    super();
    const taken = ({ sourceCodeLocation }: Placed) => (this.takenTo = sourceCodeLocation!.endOffset);
    for (const kind of ['doctype', 'startTag', 'endTag', 'text', 'comment'] as const) this.on(kind, taken);
  }

  override push(piece: unknown): boolean {
    if (typeof piece === 'string') this.pieces.push(piece);
    return true;
  }
}

/**
 * Passes on what is made of a text, and waits for what comes later. Where more than the most would have to be kept to find
 * the end of a piece, the rest passes as it is.
 */
function inOrder(
  stream: PiecesOfText,
  inline: InlineScripts | undefined,
  options: InjectionOptions,
): Transform {
  const { mostKept = MAX_KEPT, onTooLong = () => undefined } = options;
  /** What came and was not taken apart; undefined once all is passed on as it is. */
  let kept: string[] | undefined = [];
  /** Until it is known how the text begins. */
  let begin: string | undefined = '';
  let keptLength = 0;
  let takenTo = 0;
  const flush = async (into: Transform) => {
    const { pieces } = stream;
    stream.pieces = [];
    for (const piece of pieces) into.push(typeof piece === 'string' ? piece : await piece);
  };
  const forget = (length: number) => {
    keptLength -= length;
    for (let left = length; left > 0;) {
      const first = kept![0]!;
      if (first.length > left) kept![0] = first.slice(left);
      else kept!.shift();
      left -= Math.min(left, first.length);
    }
  };
  /** Passes a mark of the byte order on before all else. @returns what follows it; nothing where it is too soon to tell, or all is passed on */
  const begun = (into: Transform, text: string): string | undefined => {
    begin = text.length < MAX_MARK ? text : undefined;
    if (begin !== undefined) return undefined;
    const mark = byteOrderMark(text);
    if (mark === undefined) return text;
    if (mark === 'utf-8') {
      into.push(text.slice(0, MAX_MARK));
      return text.slice(MAX_MARK);
    }
    stream.stop();
    kept = undefined;
    into.push(text);
    return undefined;
  };
  /** @returns what is passed on as it came, once no more is changed */
  const pass = async (into: Transform, chunk: string): Promise<string | undefined> => {
    if (kept === undefined) return chunk;
    const text = begin === undefined ? chunk : begun(into, begin + chunk);
    if (text === undefined) return undefined;
    kept.push(text);
    keptLength += text.length;
    stream.write(text);
    forget(stream.takenTo - takenTo);
    ({ takenTo } = stream);
    await flush(into);
    if (keptLength + (inline?.keptLength ?? 0) > mostKept) {
      stream.stop();
      onTooLong();
      into.push((inline?.giveUp() ?? '') + kept.join(''));
      kept = undefined;
    }
    return undefined;
  };
  return new Transform({
    decodeStrings: false,
    encoding: 'utf8',
    transform(this: Transform, chunk: string, _encoding, done) {
      pass(this, chunk).then((text) => done(null, text), done);
    },
    flush(this: Transform, done) {
      if (begin) this.push(begin);
      if (kept !== undefined) stream.end();
      flush(this).then(() => done(), done);
    },
  });
}

interface StartTag {
  readonly tagName: string;
  readonly attrs: { name: string; value: string }[];
}

/** The attribute that holds the policy, if a tag is `<meta http-equiv="Content-Security-Policy">`. */
function policyContent(token: StartTag): { value: string } | undefined {
  if (token.tagName !== 'meta') return undefined;
  const equivalent = token.attrs.find(({ name }) => name === 'http-equiv')?.value.toLowerCase();
  if (equivalent !== 'content-security-policy') return undefined;
  return token.attrs.find(({ name }) => name === 'content');
}
