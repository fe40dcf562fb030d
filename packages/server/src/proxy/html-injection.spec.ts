import { Readable } from 'node:stream';
import { text } from 'node:stream/consumers';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { injectRecorder, recorderElements, type InjectionOptions } from './html-injection';

const options: InjectionOptions = {
  scriptUrls: [
    'http://localhost:4781/__nettle-patch/steps.js',
    'http://localhost:4781/__nettle-patch/recorder.js',
  ],
  senderUrl: 'http://localhost:4781/__nettle-patch/sender.js',
  nonce: 'quay',
  data: { 'data-secret': 'a"b', 'data-mode': 'everyday', 'data-steps': 'places', 'data-labels': 'ids' },
  document: true,
};
const ELEMENT = recorderElements(options);

async function inject(
  html: string,
  changes: Partial<InjectionOptions> = {},
  pieces = [html],
): Promise<string> {
  const stream = injectRecorder({ ...options, ...changes });
  stream.setEncoding('utf8');
  return text(Readable.from(pieces).pipe(stream));
}

describe('the recorder in an HTML text', () => {
  it('comes before every other script, wherever the first one stands', async () => {
    expect(await inject('<!doctype html><html><head><script src=a></script>')).toBe(
      `<!doctype html><html><head>${ELEMENT}<script src=a></script>`,
    );
    expect(await inject('<!doctype html><script>1</script>')).toBe(
      `<!doctype html>${ELEMENT}<script>1</script>`,
    );
    expect(await inject('<title>Desk</title><body>')).toBe(`${ELEMENT}<title>Desk</title><body>`);
    expect(await inject('<!-- quay --><html lang=en>\n<body>hi')).toBe(
      `<!-- quay --><html lang=en>\n${ELEMENT}<body>hi`,
    );
  });

  it('is put in once, and escapes what it carries', async () => {
    const html = await inject('<html><head></head><body><head></body></html>');
    expect(html.split('recorder.js')).toHaveLength(2);
    expect(ELEMENT).toContain('data-secret="a&quot;b"');
  });

  it('leaves fragments alone that are fetched and not shown as a document', async () => {
    expect(await inject('<li>Holm</li>', { document: false })).toBe('<li>Holm</li>');
    expect(await inject('<!doctype html><p>', { document: false })).toContain('recorder.js');
  });

  it('adapts a policy given in the text', async () => {
    const html = await inject(
      `<head><meta http-equiv="Content-Security-Policy" content="script-src 'self'"></head>`,
    );
    expect(html).toContain(`script-src 'self' ${options.scriptUrls.join(' ')}`);
  });

  it.each([
    ['a text', '<!doctype html><head></head><body>a'],
    ['a comment', '<!doctype html><head></head><!--a'],
    ['a tag', '<!doctype html><head></head><p title="a'],
    ['a script', '<!doctype html><head></head><script>a;'],
  ])('passes the rest as it is where %s goes on and on', async (_what, html) => {
    let told = 0;
    const changes = {
      mostKept: 1000,
      onTooLong: () => told++,
      rewriteInline: () => Promise.resolve('not this one'),
    };
    const long = html + '<b>1&amp'.repeat(40) + 'a'.repeat(2000);
    const stream = injectRecorder({ ...options, ...changes });
    let passed = 0;
    stream.on('data', (piece: string) => (passed += piece.length));
    stream.write(long);
    for (let at = 0; at < 50; at++) stream.write('a'.repeat(1000));
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(passed).toBeGreaterThan(45_000);
    stream.end();
    const rest = 'a'.repeat(100) + '</script><script>let b</script>';
    const whole = await inject(long + rest, changes, [...(long + rest)]);
    expect(whole.replace(ELEMENT, '')).toBe(long + rest);
    expect(told).toBe(2);
  });

  it('changes no other byte, in whatever pieces the text comes', async () => {
    const html =
      '<!doctype html><html><head>\r\n<title>B\u00e5t &amp; b\u00f6rd</title><script>if (a < b && "</p>") {}</script></head><body class=\'x\'>\u0000<p a=1 A=2>ok</body>';
    const whole = await inject(html);
    expect(whole.replace(ELEMENT, '')).toBe(html);
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 0, max: html.length }), { maxLength: 12 }),
        async (cuts) => {
          const places = [0, ...cuts.sort((a, b) => a - b), html.length];
          const pieces = places.slice(1).map((end, index) => html.slice(places[index], end));
          expect(
            await inject(
              html,
              {},
              pieces.filter((piece) => piece !== ''),
            ),
          ).toBe(whole);
        },
      ),
      { numRuns: 60 },
    );
  });
});
