import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { fileURLToPath } from 'node:url';
import { gunzipSync, gzipSync } from 'node:zlib';
import {
  DEFAULT_THRESHOLDS,
  MAX_IMPORT,
  budgetCases,
  checkBudget,
  compareRecordings,
  comparisonCases,
  junitXml,
  recordingMarkdown,
  type Recording,
  EXPORTERS,
  type Exporter,
} from '@nettle-patch/core';
import { JSDOM } from 'jsdom';
import { beforeAll, describe, expect, it } from 'vitest';
import { lensFrom, writeCalls } from './calls';
import { readBudget, writeCheck } from './check';
import { writeComparison } from './compare';
import { writeSeveral } from './compare-several';
import { writeExplanation } from './explain';
import { rangeFrom } from './range-flags';
import { stingText } from './sting-text';
import { Output } from './output';
import { FileError, noticeText, readRecordingFile } from './read-recording';

const recordedFile = (name: string) =>
  fileURLToPath(new URL(`../../../core/src/testing/recordings/${name}.nettle.jsonl.gz`, import.meta.url));
const quiet = () => undefined;
let folder: string;
let boarding: Recording;
let mended: Recording;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'nettle-patch-'));
  boarding = (await readRecordingFile(recordedFile('board-all-exact'), quiet)).recording;
  mended = (await readRecordingFile(recordedFile('board-all-exact-mended'), quiet)).recording;
});

/** What a command writes, on a stream that is no terminal. */
function written(write: (output: Output) => void): string {
  const stream = new PassThrough();
  write(new Output(stream as unknown as NodeJS.WriteStream));
  return String(stream.read() ?? '');
}

async function fileOf(name: string, content: string | Buffer): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, content);
  return path;
}

describe('a file', () => {
  it('is read compressed or not, whatever it is called', async () => {
    const plain = await fileOf('plain.txt', gunzipSync(await readFile(recordedFile('ticker'))));
    const { recording, notices } = await readRecordingFile(plain, quiet);
    expect(notices).toEqual([]);
    expect(recording.header.title).toBe('ticker');
  });

  it('that is none is refused, by its name and with what is wrong', async () => {
    const refusal = async (path: string) => {
      const error: unknown = await readRecordingFile(path, quiet).catch((reason: unknown) => reason);
      expect(error).toBeInstanceOf(FileError);
      return (error as FileError).message;
    };
    expect(await refusal(join(folder, 'nowhere.gz'))).toMatch(/nowhere\.gz: there is no such file/);
    expect(await refusal(folder)).toMatch(/a folder/);
    expect(await refusal(await fileOf('list.json', '[1, 2]'))).toMatch(
      /list\.json: it is neither a recording/,
    );
    expect(await refusal(await fileOf('empty', ''))).toMatch(/empty, line 1/);
  });

  it('that is damaged is read as far as it goes, and says where it is not', async () => {
    const whole = gunzipSync(await readFile(recordedFile('ticker')));
    const lines = whole.toString('utf8').split('\n');
    lines[30] = '{"kind":"task","thread":"zero"}';
    const path = await fileOf('damaged.jsonl', lines.join('\n'));
    const { notices } = await readRecordingFile(path, quiet);
    expect(notices.map((notice) => noticeText(path, notice)).join('\n')).toMatch(
      /damaged\.jsonl, line 31: .*"thread" must be/,
    );
    const cut = await fileOf('cut.gz', gzipSync(whole).subarray(0, 4000));
    const { notices: cutNotices } = await readRecordingFile(cut, quiet);
    expect(cutNotices.map(({ code }) => code)).toContain('damaged-archive');
  });
});

describe('a report of one sting', () => {
  it('is written in each form, and refers to nothing outside', () => {
    const texts = (['markdown', 'html', 'svg'] as const).map((form) =>
      stingText(boarding, 1, DEFAULT_THRESHOLDS, form),
    );
    for (const text of texts) {
      expect(text).toContain('Tap button “Board all”');
      expect(text).not.toMatch(/(src|href)="?http/);
    }
    expect(new JSDOM(texts[1]).window.document.querySelectorAll('svg, table').length).toBeGreaterThan(2);
    expect(texts[2]).toMatch(/^<svg /);
  });

  it('says which numbers there are, where one is not', () => {
    for (const number of [0, 1000]) {
      expect(() => stingText(boarding, number, DEFAULT_THRESHOLDS, 'markdown')).toThrow(
        /^--sting \d+: the recording has stings 1 to \d+\.$/,
      );
    }
  });
});

describe('explain', () => {
  it('writes the sentence, what took the time, the functions and what could be done', () => {
    const text = written((output) => writeExplanation(output, boarding, DEFAULT_THRESHOLDS, false));
    expect(text).toMatch(/1\. Tap button “Board all” {2}920 ms, budget 200 ms/);
    expect(text).toMatch(/bendingOfPair +src\/desk\/deck\/trim\.ts:\d+ +self 824 ms/);
    expect(text).toContain('→ Call bendingOfPair less often');
    // eslint-disable-next-line no-control-regex -- that there is no escape sequence is what is asked
    expect(text).not.toMatch(/\u001b\[/);
    expect(Math.max(...text.split('\n').map((line) => line.length))).toBeLessThan(130);
  });

  it('sums a range, and tells only the stings that reach into it', () => {
    const range = rangeFrom(boarding, { from: '0', to: '1500' })!;
    expect(range).toEqual({ startMs: 0, endMs: 1500 });
    const text = written((output) => writeExplanation(output, boarding, DEFAULT_THRESHOLDS, false, range));
    expect(text).toContain('Sum from 0.000 s to 1.500 s');
    expect(text).toMatch(/own script +[\d.,]+ ms +\d+ %/);
    expect(text).toMatch(/bendingOfPair +src\/desk\/deck\/trim\.ts:\d+ +[\d,]+ ms/);
    expect(text).toMatch(/Inputs: \d+, 1 over 200 ms; longest Tap button “Board all”, 920 ms/);
    const report = JSON.parse(
      written((output) => writeExplanation(output, boarding, DEFAULT_THRESHOLDS, true, range)),
    ) as { sums: { kinds: Record<string, number>; toMs: number }; stings: { startMs: number }[] };
    const sum = Object.values(report.sums.kinds).reduce((all, ms) => all + ms, 0);
    expect(sum).toBeCloseTo(report.sums.toMs, 1);
    expect(report.stings.length).toBeGreaterThan(0);
    for (const sting of report.stings) expect(sting.startMs).toBeLessThan(1500);
  });

  it.each([
    [{ from: '900', to: '300' }, '--from 900 does not lie before --to 300'],
    [{ from: 'noon' }, '--from takes a number, got "noon"'],
    [{ to: '' }, '--to takes a number, got ""'],
    [{ from: '900000', to: '900001' }, 'Nothing was recorded from 900,000 to 900,001 ms'],
  ])('says what is wrong with a range: %j', (flags, words) => {
    expect(() => rangeFrom(boarding, flags)).toThrow(words);
  });

  it('writes JSON of a documented version', () => {
    const report = JSON.parse(
      written((output) => writeExplanation(output, boarding, DEFAULT_THRESHOLDS, true)),
    ) as {
      version: number;
      stings: object[];
    };
    expect(report.version).toBe(1);
    expect(report.stings[0]).toMatchObject({
      kind: 'slow-response',
      label: 'Tap button “Board all”',
      budgetMs: 200,
    });
  });
});

describe('calls', () => {
  it('lists functions by their self time, and obeys the lens', () => {
    const text = written((output) => writeCalls(output, boarding, { text: 'deck/' }, false));
    expect(text.split('\n')[1]).toMatch(/44,850 .*bendingOfPair/);
    const focused = written((output) => writeCalls(output, boarding, { focus: ['drawVehicles'] }, false));
    expect(focused).not.toContain('bendingOfPair');
    expect(focused).toContain('drawVehicles');
  });

  it('lists lines, and says so where only first lines of functions are known', () => {
    const text = written((output) => writeCalls(output, boarding, { lines: true, top: '3' }, false));
    expect(text).toContain('Lines are known of recordings in fine mode');
    expect(text).toMatch(/src\/desk\/deck\/trim\.ts:24/);
    const json = JSON.parse(
      written((output) => writeCalls(output, boarding, { lines: true, text: 'deck/' }, true)),
    ) as { lines: { file: string; line: number; selfMs: number; samples: number; count: number }[] };
    expect(json.lines[0]).toMatchObject({ line: 24, samples: 0, count: 44_850 });
    expect(json.lines.every(({ file }) => file.includes('deck/'))).toBe(true);
    const without = written((output) => writeCalls(output, boarding, {}, true));
    expect(JSON.parse(without)).not.toHaveProperty('lines');
  });

  it('refuses a lens that makes no sense, naming the flag', () => {
    expect(() => lensFrom(boarding, { min: 'long' })).toThrow('--min takes a number, got "long"');
    expect(() => lensFrom(boarding, { focus: ['drawVehicles', 'nobody'] })).toThrow('"nobody"');
    expect(() => lensFrom(boarding, { thread: '-1' })).toThrow('thread');
  });
});

describe('other open formats', () => {
  it('that unpack to more than can be read are refused with how much that is', async () => {
    const huge = await fileOf('huge.gz', gzipSync(Buffer.alloc(MAX_IMPORT + 1, 'main;stow 30\n')));
    await expect(readRecordingFile(huge, quiet)).rejects.toThrow(/huge\.gz: it unpacks to more than \d+ MB/);
  });

  it('are read as recordings are, by what they hold', async () => {
    const folded = await fileOf('server.folded', 'main;loadTimetable (src/timetable.ts:12) 30\nmain 4\n');
    const { recording, notices } = await readRecordingFile(folded, quiet);
    expect([recording.header.timeless, notices]).toEqual([true, []]);
    expect(written((output) => writeCalls(output, recording, {}, false))).toMatch(/30\.0.*loadTimetable/);
    const zipped = await fileOf('server.folded.gz', gzipSync('main;stow 30\n'));
    expect((await readRecordingFile(zipped, quiet)).recording.header.target.engine).toBe('folded stacks');
  });
});

describe('compare', () => {
  it('writes a page and a picture that can be passed on', () => {
    for (const [as, begin] of [
      ['html', '<!doctype html>'],
      ['svg', '<svg xmlns="http://www.w3.org/2000/svg"'],
    ] as const) {
      const text = written((output) => writeComparison(output, boarding, mended, DEFAULT_THRESHOLDS, as));
      expect(text.startsWith(begin), text.slice(0, 80)).toBe(true);
      expect(text).toContain('Tap button “Board all”');
    }
  });

  it('writes text, Markdown and JSON', () => {
    expect(
      written((output) => writeComparison(output, boarding, mended, DEFAULT_THRESHOLDS, 'text')),
    ).toMatch(/– +attempt +gone +bendingOfPair/);
    expect(
      written((output) => writeComparison(output, boarding, mended, DEFAULT_THRESHOLDS, 'markdown')),
    ).toMatch(/^\| bendingOfPair .*gone \|$/m);
    const report: unknown = JSON.parse(
      written((output) => writeComparison(output, boarding, mended, DEFAULT_THRESHOLDS, 'json')),
    );
    expect(report).toMatchObject({ version: 2, before: { title: 'board-all-exact' }, warnings: [] });
  });
});

describe('compare with three recordings or more', () => {
  const all = () => [boarding, mended, boarding];
  const several = (as: 'text' | 'markdown' | 'json' | 'html' | 'svg', recordings = all()) =>
    written((output) => writeSeveral(output, recordings, DEFAULT_THRESHOLDS, as));

  it('writes a table as text, Markdown, JSON and a page', () => {
    expect(several('text')).toMatch(/Tap button “Board all” .*\d+ ms/);
    expect(several('markdown')).toContain('| what | 1 | 2 | 3 |');
    expect(JSON.parse(several('json'))).toMatchObject({ version: 1, recordings: [{}, {}, {}] });
    expect(several('html')).toContain('<!doctype html>');
  });

  it('says what it cannot do', () => {
    expect(() => several('svg')).toThrow('--svg draws two recordings');
    expect(() => several('text', [...all(), ...all(), ...all()])).toThrow('up to 8 recordings, got 9');
  });
});

describe('a test report', () => {
  it('fails what has become slower, and skips what cannot be told', () => {
    const cases = comparisonCases(compareRecordings(mended, boarding, DEFAULT_THRESHOLDS));
    expect(new Set(cases.map(({ outcome }) => outcome)).has('skipped')).toBe(true);
    const slower = { name: 'Tap button “Board all”', outcome: 'failed', message: 'slower: +600 ms' } as const;
    const xml = junitXml('before against after', [slower, ...cases]);
    const document = new JSDOM(xml, { contentType: 'text/xml' }).window.document;
    expect(document.querySelector('testsuite')!.getAttribute('failures')).toBe('1');
    expect(document.querySelectorAll('testcase')).toHaveLength(cases.length + 1);
    expect(document.querySelector('failure')!.getAttribute('message')).toBe('slower: +600 ms');
  });

  it('is well-formed whatever is in a name', () => {
    const name = '<b>&"\u0000\u001b[2J]]>';
    const xml = junitXml(name, [{ name, outcome: 'failed', message: name, details: name }]);
    const { document } = new JSDOM(xml, { contentType: 'text/xml' }).window;
    expect(document.querySelector('testcase')!.getAttribute('name')).toBe('<b>&"\ufffd\ufffd[2J]]>');
  });

  it('tells a recording in short, as Markdown', () => {
    const text = recordingMarkdown(boarding, DEFAULT_THRESHOLDS);
    expect(text).toMatch(/^### board-all-exact$/m);
    expect(text).toMatch(/^\| Tap button “Board all” \| 920 ms \| 200 ms \| .*bendingOfPair.* \|$/m);
  });
});

describe('what is written', () => {
  const name = 'desk\u001b[31m\u009b2J\nkept';

  it('holds no control character of a name, nor a line of its own', () => {
    expect(written((output) => output.line(name))).toBe('desk\\u001b[31m\\u009b2J\\u000akept\n');
    expect(written((output) => output.wrapped(`a ${name}`))).not.toContain('\u001b');
    expect(JSON.parse(written((output) => output.json({ name })))).toEqual({ name });
  });

  it('has colours on a terminal all the same, and files as they are elsewhere', () => {
    const stream = new PassThrough() as unknown as NodeJS.WriteStream;
    stream.isTTY = true;
    const output = new Output(stream, true);
    output.line(output.style('red', name));
    output.data(name);
    expect(String(stream.read())).toBe(
      '\u001b[31mdesk\\u001b[31m\\u009b2J\\u000akept\u001b[39m\ndesk\\u001b[31m\\u009b2J\nkept\n',
    );
    expect(written((plain) => plain.data(name))).toBe(`${name}\n`);
  });
});

describe('convert', () => {
  it.each(Object.entries<Exporter>(EXPORTERS))('writes %s', (format, exporter) => {
    const lines = [...exporter.lines(boarding, 'functions')];
    expect(lines.length).toBeGreaterThan(0);
    const wanted: Readonly<Record<string, RegExp>> = {
      har: /"version": "1.2"/,
      entries: /"entryType": "event"/,
      trace: /^\{"resources":\[/,
    };
    expect(lines.join('\n')).toMatch(wanted[format] ?? /bendingOfPair/);
  });
});

describe('check', () => {
  it('says what is kept and what is exceeded', async () => {
    const budget = await readBudget(
      await fileOf('budget.json', '{"responses":[{"label":"*","ms":300}],"longTaskMs":5000}'),
    );
    let kept: boolean | undefined;
    const results = checkBudget(boarding, budget);
    const text = written((output) => (kept = writeCheck(output, [boarding], results, 'text')));
    expect(kept).toBe(false);
    expect(text).toMatch(/^exceeded {2}Response to: Tap button “Board all”: 920 ms, allowed 300$/m);
    expect(text).toMatch(/^kept {6}Time in long tasks/m);
    const markdown = written((output) => writeCheck(output, [boarding], results, 'markdown'));
    expect(markdown).toMatch(
      /^\| Response to: Tap button “Board all” \| 920 ms, allowed 300 \| \*\*exceeded\*\* \|$/m,
    );
    expect(budgetCases(results)).toContainEqual({
      name: 'Response to: Tap button “Board all”',
      tookMs: 920,
      outcome: 'failed',
      message: '920 ms, allowed 300',
    });
  });

  it('refuses a budget it cannot read, naming the file and the field', async () => {
    const path = await fileOf('wrong.json', '{"longTasks":1}');
    await expect(readBudget(path)).rejects.toThrow(/wrong\.json: .*longTasks/);
    await expect(readBudget(await fileOf('broken.json', '{'))).rejects.toThrow(/broken\.json is no JSON/);
  });
});
