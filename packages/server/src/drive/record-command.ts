import {
  fileText,
  isTextLine,
  junitXml,
  readRecording,
  recordingMarkdown,
  thresholdsOf,
  CAPTURE_MODES,
  type ProxySettings,
  type TestCase,
} from '@nettle-patch/core';
import { Output } from '../commands/output';
import { say } from '../commands/say';
import { writeSeveral } from '../commands/compare-several';
import { writeOut } from '../commands/write-out';
import { Option, type Command } from 'commander';
import { CONFIG_NAME, readConfig, settingsFrom } from '../start/config';
import { SLOW_WORDS, needed, slowFrom, timesFrom, urlFrom } from './arguments';
import { DRIVE_EXIT, guardedDrive } from './drive-exit';
import { BROWSER_WORDS, browsersFrom, type BrowserName } from './local-browsers';
import { recordScript, type ScriptedRecording } from './record';
import { readStepsFile } from './steps-file';

/** How the command ends, for scripts that call it. */
export const EXIT = { written: 0, ...DRIVE_EXIT } as const;

const MAX_REPEAT = 1000;

interface RecordFlags {
  steps?: string;
  mode?: ProxySettings['mode'];
  browser: string;
  driver?: string;
  repeat: number;
  slow?: string;
  freshLoads?: boolean;
  out: string;
  title?: string;
  isolate?: boolean;
  startUp?: boolean;
  leaveOut?: string[];
  labels?: ProxySettings['labels'];
  closer?: string;
  texts: boolean;
  keepWords?: boolean;
  markdown?: boolean;
  junit?: string;
}

/** What one browser made of it. */
interface Made {
  /** The recording, as it was written. */
  readonly text: string;
  readonly browser: string;
  readonly failure?: Error;
}

async function recordIn(
  browser: BrowserName | URL,
  wanted: Omit<ScriptedRecording, 'browser'>,
  out: string,
  withTexts: boolean,
): Promise<Made> {
  const { lines, browser: name, speed, failure } = await recordScript({ ...wanted, browser });
  const kept = withTexts ? lines : lines.filter((line) => !isTextLine(line));
  const text = fileText(kept);
  await writeOut(out, text);
  if (speed !== undefined)
    say(`The browser ran ${speed} × slower, as measured in the page (asked: ${wanted.slow} ×).`);
  say(`${kept.length} rows from ${name} written to ${out}.`);
  if (failure !== undefined) say(`${failure.message}. The recording holds what came before.`);
  return { text, browser: name, ...(failure === undefined ? {} : { failure }) };
}

/** A file of one browser among several: "recording-firefox.nettle.jsonl.gz". */
export function fileFor(out: string, browser: string): string {
  const [, path, ending] = /^(.*?)((?:\.[^./\\]+)*)$/s.exec(out)!;
  return `${path}-${browser}${ending}`;
}

const readMade = ({ text }: Made) => readRecording([new TextEncoder().encode(text)]).recording;

function writeMade(made: readonly Made[], inMarkdown: boolean): void {
  const output = new Output(process.stdout);
  if (made.length > 1) {
    const recordings = made.map(readMade);
    const thresholds = thresholdsOf(recordings[0]!.header);
    writeSeveral(output, recordings, thresholds, inMarkdown ? 'markdown' : 'text');
  } else if (inMarkdown) {
    const recording = readMade(made[0]!);
    output.data(recordingMarkdown(recording, thresholdsOf(recording.header)));
  }
}

async function runRecord(address: string | undefined, flags: RecordFlags): Promise<void> {
  const { repeat, out, title, startUp } = flags;
  const config = await readConfig();
  const url = urlFrom(needed(address ?? config.target, 'address'), 'the address');
  const wanted: Omit<ScriptedRecording, 'browser'> = {
    url,
    steps: await readStepsFile(needed(flags.steps ?? config.steps, 'file of steps (--steps)')),
    settings: settingsFrom(flags, config),
    onRound: (done) => {
      if (repeat > 1) say(`Taking the steps, time ${done + 1} of ${repeat} …`);
    },
    repeat,
    slow: slowFrom(flags.slow),
    freshLoads: flags.freshLoads,
    keepsWords: flags.keepWords ?? false,
    startUp: startUp ?? false,
    ...(title === undefined ? {} : { title }),
  };
  const browsers = browsersFrom(flags.browser);
  const made: Made[] = [];
  if (flags.driver !== undefined) {
    made.push(await recordIn(urlFrom(flags.driver, 'the driver'), wanted, out, flags.texts));
  } else {
    for (const browser of browsers) {
      const file = browsers.length > 1 ? fileFor(out, browser) : out;
      const named = browsers.length > 1 ? { title: `${title ?? 'The steps'}, ${browser}` } : {};
      made.push(await recordIn(browser, { ...wanted, ...named }, file, flags.texts));
    }
  }
  writeMade(made, flags.markdown ?? false);
  if (flags.junit !== undefined) {
    const cases = made.map(({ browser, failure }) => stepsCase(browser, repeat, failure));
    await writeOut(flags.junit, junitXml(`Recording of ${url.href}`, cases));
  }
  if (made.some(({ failure }) => failure !== undefined)) process.exitCode = EXIT.stepFailed;
}

function stepsCase(browser: string, times: number, failure: Error | undefined): TestCase {
  const name = `the steps, ${times === 1 ? 'once' : `${times} times`}, in ${browser}`;
  return failure === undefined
    ? { name, outcome: 'passed' }
    : { name, outcome: 'failed', message: failure.message };
}

/** Adds `nettle-patch record`. */
export function addRecordCommand(program: Command): void {
  program
    .command('record')
    .description('record a page while a browser takes steps in it')
    .argument('[url]', 'address of the page, such as http://localhost:3000/')
    .option('--steps <file>', 'file of steps, as docs/steps.md describes, or a recording to be made again')
    .addOption(new Option('--mode <mode>', 'how closely to look (default: everyday)').choices(CAPTURE_MODES))
    .option('--browser <names>', BROWSER_WORDS, 'chromium')
    .option(
      '--closer <place>',
      'in fine mode, record the calls of one function and all that they call exactly: "src/desk/trim.ts:29"',
    )
    .option('--driver <address>', 'any WebDriver end point instead, such as that of a phone')
    .option('--repeat <times>', 'take the steps so many times', '1')
    .option('--fresh-loads', 'load the page afresh each time; else all are taken in one load')
    .option('--slow <times>', SLOW_WORDS)
    .option('--out <file>', 'file to write; ".gz" at its end compresses it', 'recording.nettle.jsonl.gz')
    .option('--title <text>', 'title of the recording')
    .option(
      '--leave-out <text...>',
      'in fine and exact mode, leave scripts alone whose address holds one of these',
    )
    .addOption(
      new Option(
        '--labels <by>',
        'name controls by their ids, or by their visible texts (default: ids)',
      ).choices(['ids', 'texts']),
    )
    .option('--keep-words', 'keep what the steps type in the recording, and not its length only')
    .option('--no-texts', 'leave the texts of sources out of the file')
    .option('--start-up', 'record from the first script of the page on')
    .option('--markdown', 'write to standard output in short, as Markdown, what was recorded')
    .option('--junit <file>', 'write whether the steps could be taken as a test report in XML')
    .option('--isolate', 'isolate the page, so that a hang can be looked into')
    .addHelpText(
      'after',
      `
What is not given is taken from ${CONFIG_NAME}, where there is one.

Exit codes: ${EXIT.written} written; ${EXIT.badArguments} wrong arguments or steps; ${EXIT.noBrowser} no browser or driver; ${EXIT.stepFailed} a step failed, what came before
is written; ${EXIT.notRecorded} nothing could be recorded.`,
    )
    .action(
      guardedDrive((address: string | undefined, flags: Omit<RecordFlags, 'repeat'> & { repeat: string }) =>
        runRecord(address, { ...flags, repeat: timesFrom(flags.repeat, '--repeat', MAX_REPEAT) }),
      ),
    );
}
