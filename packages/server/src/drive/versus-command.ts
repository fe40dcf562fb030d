import {
  CAPTURE_MODES,
  changeWords,
  comparisonCases,
  junitXml,
  slowerIn,
  versusMarkdown,
  versusReport,
  versusRows,
  versusWords,
  type ProxySettings,
  type Versus,
  type VersusRun,
} from '@nettle-patch/core';
import { Option, type Command } from 'commander';
import { Output } from '../commands/output';
import { say } from '../commands/say';
import { writeOut } from '../commands/write-out';
import { CONFIG_NAME, readConfig, settingsFrom } from '../start/config';
import { BadArgumentError, needed, timesFrom, urlFrom } from './arguments';
import { DRIVE_EXIT, guardedDrive } from './drive-exit';
import { BROWSER_NAMES, type BrowserName } from './local-browsers';
import { readStepsFile } from './steps-file';
import { runVersus, type LoadProgress } from './versus';

/** How the command ends, for scripts that call it. */
const EXIT = { notSlower: 0, slower: 1, ...DRIVE_EXIT } as const;

const MAX_ROUNDS = 100;

interface VersusFlags {
  steps?: string;
  rounds: string;
  browser: string;
  mode?: ProxySettings['mode'];
  out?: string;
  json?: boolean;
  markdown?: boolean;
  junit?: string;
}

function browsersFrom(text: string): BrowserName[] {
  const names = text.split(',').map((name) => name.trim());
  return names.map((name) => {
    const known = BROWSER_NAMES.find((one) => one === name);
    if (known === undefined)
      throw new BadArgumentError(
        `--browser: "${name}" is none of ${BROWSER_NAMES.join(', ')}; several stand with commas between.`,
      );
    return known;
  });
}

/** "about 1 min 20 s". */
function aboutText(ms: number): string {
  const seconds = Math.max(1, Math.round(ms / 1000));
  return seconds < 60 ? `about ${seconds} s` : `about ${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}

function sayProgress(browser: string, rounds: number, { side, round, leftMs }: LoadProgress): void {
  const left = leftMs === undefined ? '' : `, ${aboutText(leftMs)} to go at most`;
  say(`${browser}, round ${round} of ${rounds}: ${side === 'before' ? 'A' : 'B'}${left} …`);
}

function writeText(output: Output, versus: Versus): void {
  output.line(`A: ${versus.before}`);
  output.line(`B: ${versus.after}`);
  for (const run of versus.runs) {
    output.line();
    output.line(output.style('bold', run.browser));
    output.wrapped(versusWords(run));
    output.table(
      [['', 'A', 'B', 'B is', ''], ...versusRows(run.comparison.series)],
      [false, true, true, false, false],
    );
  }
  output.line();
  const slower = slowerIn(versus);
  for (const { browser, series } of slower)
    output.line(`slower in ${browser}: ${series.label}: ${changeWords(series)}`);
  if (slower.length === 0) output.line('Nothing became slower, as far as it could be told.');
}

async function versusOf(a: string, b: string, flags: VersusFlags): Promise<Versus> {
  const config = await readConfig();
  const urls = { before: urlFrom(a, 'address A'), after: urlFrom(b, 'address B') };
  const steps = await readStepsFile(needed(flags.steps ?? config.steps, 'file of steps (--steps)'));
  const rounds = timesFrom(flags.rounds, '--rounds', MAX_ROUNDS);
  const settings = settingsFrom(flags.mode === undefined ? {} : { mode: flags.mode }, config);
  const { out } = flags;
  const runs: VersusRun[] = [];
  for (const browser of browsersFrom(flags.browser)) {
    const onLoad = (progress: LoadProgress) => sayProgress(browser, rounds, progress);
    runs.push(await runVersus({ urls, steps, settings, browser, rounds, out, onLoad }));
  }
  return { before: urls.before.href, after: urls.after.href, runs };
}

async function run(a: string, b: string, flags: VersusFlags): Promise<void> {
  const versus = await versusOf(a, b, flags);
  const output = new Output(process.stdout);
  if (flags.json) output.json(versusReport(versus));
  else if (flags.markdown) output.data(versusMarkdown(versus));
  else writeText(output, versus);
  if (flags.junit !== undefined) {
    const cases = versus.runs.flatMap(({ browser, comparison }) =>
      comparisonCases(comparison).map((one) => ({ ...one, name: `${one.name}, in ${browser}` })),
    );
    await writeOut(flags.junit, junitXml(`${a} against ${b}`, cases));
  }
  process.exitCode = slowerIn(versus).length > 0 ? EXIT.slower : EXIT.notSlower;
}

/** Adds `nettle-patch versus`. */
export function addVersusCommand(program: Command): void {
  program
    .command('versus')
    .description('hold two addresses against each other, by fresh loads of each in turn')
    .argument('<a>', 'address of one version, such as http://localhost:3000/')
    .argument('<b>', 'address of the other')
    .option('--steps <file>', 'file of steps, as docs/steps.md describes, or a recording to be made again')
    .option('--rounds <number>', 'loads of each at most; it ends before where nothing is left to decide', '8')
    .option(
      '--browser <names>',
      `browsers of this machine, with commas between: ${BROWSER_NAMES.join(', ')}`,
      'chromium',
    )
    .addOption(new Option('--mode <mode>', 'how closely to look (default: everyday)').choices(CAPTURE_MODES))
    .option(
      '--out <folder>',
      'keep the recordings of the loads; a run that was cut goes on with those that are there',
    )
    .option('--json', 'write it as JSON, as docs/reports.md describes')
    .option('--markdown', 'write it as Markdown, for a change request')
    .option('--junit <file>', 'write the verdicts as a test report in XML too')
    .addHelpText(
      'after',
      `
What is not given is taken from ${CONFIG_NAME}, where there is one.

Exit codes: ${EXIT.notSlower} nothing is slower in B; ${EXIT.slower} something is; ${EXIT.badArguments} wrong arguments or steps; ${EXIT.noBrowser} no browser;
${EXIT.stepFailed} a step failed; ${EXIT.notRecorded} a load could not be recorded. With --out, what was made before is kept.`,
    )
    .action(guardedDrive(run));
}
