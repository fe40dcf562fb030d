import { readFile } from 'node:fs/promises';
import {
  doResultsDiffer,
  junitXml,
  readTrial,
  trialCases,
  trialMarkdown,
  trialPage,
  trialPicture,
  trialReport,
  trialHowWords,
  trialSentences,
  trialRows,
  whereWords,
  type Trial,
  type TrialResult,
  type TrialRun,
} from '@nettle-patch/core';
import type { Command } from 'commander';
import { Output } from '../commands/output';
import { FileError } from '../commands/read-recording';
import { say } from '../commands/say';
import { wholeNumber } from '../commands/whole-number';
import { writeOut } from '../commands/write-out';
import { targetOriginOf } from '../apps/target-origin';
import { SLOW_WORDS, slowFrom } from '../drive/arguments';
import { DRIVE_EXIT, guardedDrive } from '../drive/drive-exit';
import { BROWSER_WORDS, browsersFrom } from '../drive/local-browsers';
import { runInBrowser } from './run-in-browser';
import { TrialOrigins } from './trial-origins';

/** How the command ends, for scripts that call it. */
const EXIT = { agree: 0, differ: 1, ...DRIVE_EXIT } as const;
const USUAL_SECONDS = 60;
const MAX_SECONDS = 3600;

interface TrialFlags {
  readonly browser: string;
  readonly app?: string;
  readonly seconds: number;
  readonly slow?: string;
  readonly json?: boolean;
  readonly markdown?: boolean;
  readonly html?: boolean;
  readonly svg?: boolean;
  readonly junit?: string;
}

/** @throws FileError, BadTrialError */
async function trialIn(path: string): Promise<Trial> {
  let text: string;
  try {
    text = await readFile(path, 'utf8');
  } catch (error) {
    throw new FileError(`${path} cannot be read: ${(error as Error).message}`);
  }
  return readTrial(text);
}

function writeText(output: Output, trial: Trial, runs: readonly TrialRun[]): void {
  output.line(output.style('bold', trial.name));
  for (const run of runs) {
    output.line();
    output.line(output.style('bold', whereWords(run)));
    output.table(trialRows(run.result), [false, true, true, true]);
    output.line();
    for (const sentence of trialSentences(trial, run.result)) output.wrapped(sentence);
    output.wrapped(trialHowWords(run.result));
  }
}

function isWrong({ result: { alternatives } }: TrialRun): boolean {
  return alternatives.some(({ problem }) => problem !== undefined) || doResultsDiffer(alternatives);
}

async function run(path: string, flags: TrialFlags): Promise<void> {
  const trial = await trialIn(path);
  const app = flags.app ?? trial.app;
  const targetOrigin = app === undefined ? undefined : targetOriginOf(app);
  const slow = slowFrom(flags.slow);
  const origins = new TrialOrigins();
  const runs: TrialRun[] = [];
  try {
    for (const browser of browsersFrom(flags.browser)) {
      say(`${browser}: for at most ${flags.seconds} s …`);
      const onStart = ({ starts }: TrialResult) => starts % 4 === 0 && say(`${browser}: ${starts} starts …`);
      const maxMs = flags.seconds * 1000;
      runs.push(await runInBrowser(origins, { trial, targetOrigin, browser, slow, maxMs, onStart }));
    }
  } finally {
    origins.close();
  }
  const output = new Output(process.stdout);
  if (flags.json) output.json(trialReport(trial, runs));
  else if (flags.markdown) output.data(trialMarkdown(trial, runs));
  else if (flags.html) output.data(trialPage(trial, runs).trimEnd());
  else if (flags.svg) output.data(trialPicture(trial, runs).trimEnd());
  else writeText(output, trial, runs);
  if (flags.junit !== undefined) await writeOut(flags.junit, junitXml(trial.name, trialCases(trial, runs)));
  process.exitCode = runs.some(isWrong) ? EXIT.differ : EXIT.agree;
}

/** Adds `nettle-patch trial`. */
export function addTrialCommand(program: Command): void {
  program
    .command('trial')
    .description('time alternatives for a piece of code against each other')
    .argument('<file>', 'file of a trial, as docs/trials.md describes')
    .option('--browser <names>', BROWSER_WORDS, 'chromium')
    .option('--app <address>', 'app whose modules it imports (default: the one that the file names)')
    .option(
      '--seconds <number>',
      'how long it may take in each browser',
      wholeNumber(MAX_SECONDS),
      USUAL_SECONDS,
    )
    .option('--slow <times>', SLOW_WORDS)
    .option('--json', 'write it as JSON, as docs/trials.md describes')
    .option('--markdown', 'write it as Markdown, for a change request')
    .option('--html', 'write it as one HTML page that needs nothing else')
    .option('--svg', 'write it as a picture')
    .option('--junit <file>', 'write whether all ran and agree as a test report in XML too')
    .addHelpText(
      'after',
      `
Exit codes: ${EXIT.agree} all ran, and what they give is not known to differ; ${EXIT.differ} one failed, or results differ;
${EXIT.badArguments} wrong arguments or file; ${EXIT.noBrowser} no browser; ${EXIT.notRecorded} it could not be run.`,
    )
    .action(guardedDrive(run));
}
