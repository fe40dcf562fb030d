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
import { writeOut } from '../commands/write-out';
import { Option, type Command } from 'commander';
import { CONFIG_NAME, readConfig, settingsFrom } from '../start/config';
import { needed, timesFrom, urlFrom } from './arguments';
import { DRIVE_EXIT, guardedDrive } from './drive-exit';
import { BROWSER_NAMES, type BrowserName } from './local-browsers';
import { recordScript } from './record';
import { readStepsFile } from './steps-file';

/** How the command ends, for scripts that call it. */
export const EXIT = { written: 0, ...DRIVE_EXIT } as const;

const MAX_REPEAT = 1000;

interface RecordFlags {
  steps?: string;
  mode?: ProxySettings['mode'];
  browser: BrowserName;
  driver?: string;
  repeat: number;
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

async function runRecord(address: string | undefined, flags: RecordFlags): Promise<void> {
  const { repeat, out, title, startUp } = flags;
  const config = await readConfig();
  const url = urlFrom(needed(address ?? config.target, 'address'), 'the address');
  const { lines, browser, failure } = await recordScript({
    url,
    steps: await readStepsFile(needed(flags.steps ?? config.steps, 'file of steps (--steps)')),
    settings: settingsFrom(flags, config),
    onRound: (done) => {
      if (repeat > 1) say(`Taking the steps, time ${done + 1} of ${repeat} …`);
    },
    browser: flags.driver === undefined ? flags.browser : urlFrom(flags.driver, 'the driver'),
    repeat,
    keepsWords: flags.keepWords ?? false,
    startUp: startUp ?? false,
    ...(title === undefined ? {} : { title }),
  });
  const kept = flags.texts ? lines : lines.filter((line) => !isTextLine(line));
  const text = fileText(kept);
  await writeOut(out, text);
  say(`${kept.length} rows from ${browser} written to ${out}.`);
  if (flags.markdown) {
    const { recording } = readRecording([new TextEncoder().encode(text)]);
    new Output(process.stdout).data(recordingMarkdown(recording, thresholdsOf(recording.header)));
  }
  if (flags.junit !== undefined) {
    await writeOut(flags.junit, junitXml(`Recording of ${url.href}`, [stepsCase(browser, repeat, failure)]));
  }
  if (failure === undefined) return;
  say(`${failure.message}. The recording holds what came before.`);
  process.exitCode = EXIT.stepFailed;
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
    .addOption(
      new Option('--browser <name>', 'browser of this machine').choices(BROWSER_NAMES).default('chromium'),
    )
    .option(
      '--closer <place>',
      'in fine mode, record the calls of one function and all that they call exactly: "src/desk/trim.ts:29"',
    )
    .option('--driver <address>', 'any WebDriver end point instead, such as that of a phone')
    .option('--repeat <times>', 'take the steps so many times', '1')
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
