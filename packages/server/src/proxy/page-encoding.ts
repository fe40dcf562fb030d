import { Transform, type TransformCallback } from 'node:stream';

/** A browser looks for the name of an encoding in so many bytes of a page (HTML, section 13.2.3.2). */
const LOOKED_AT = 1024;
/** A page that comes in drops is not held back for longer. */
const PATIENCE_MS = 100;
const META = /<meta\b[^>]*?\bcharset\s*=\s*["']?\s*([\w:.-]+)/i;

/** What a page begins with that says how it is decoded (Encoding Standard, section 6), as bytes (latin1). */
export function byteOrderMark(text: string): 'utf-8' | 'utf-16' | undefined {
  if (text.startsWith('\xef\xbb\xbf')) return 'utf-8';
  return text.startsWith('\xff\xfe') || text.startsWith('\xfe\xff') ? 'utf-16' : undefined;
}

/**
 * The encoding that a page names, where what is added before that would push it out of what a browser looks at.
 * @param begin the first bytes of the page (latin1)
 */
export function encodingPushedOut(begin: string, addedLength: number): string | undefined {
  if (byteOrderMark(begin) !== undefined) return undefined;
  const plain = begin.slice(0, LOOKED_AT).replace(/<!--.*?-->/gs, (comment) => ' '.repeat(comment.length));
  const found = META.exec(plain);
  if (found === null || found.index + found[0].length + addedLength <= LOOKED_AT) return undefined;
  const encoding = found[1]!.toLowerCase();
  return encoding.startsWith('utf-16') ? 'utf-8' : encoding;
}

/** Passes a text on and says how it begins, before any of it is passed on. */
export function tellingBegin(tell: (begin: string) => void): Transform {
  let begin: string | undefined = '';
  let timer: NodeJS.Timeout | undefined;
  const end = (stream: Transform) => {
    clearTimeout(timer);
    if (begin === undefined) return;
    const text = begin;
    begin = undefined;
    try {
      tell(text);
    } catch (error) {
      stream.destroy(error as Error);
      return;
    }
    if (text !== '') stream.push(text);
  };
  return new Transform({
    decodeStrings: false,
    encoding: 'utf8',
    transform(this: Transform, piece: string, _encoding, done: TransformCallback) {
      if (begin === undefined) return done(null, piece);
      begin += piece;
      timer ??= setTimeout(() => end(this), PATIENCE_MS);
      if (begin.length >= LOOKED_AT) end(this);
      done();
    },
    flush(this: Transform, done) {
      end(this);
      done();
    },
    destroy(error, done) {
      clearTimeout(timer);
      done(error);
    },
  });
}
