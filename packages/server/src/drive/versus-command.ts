import {
  CAPTURE_MODES,
  changeWords,
  comparisonCases,
  junitXml,
  slowerIn,
  thresholdsOf,
  versusMarkdown,
  versusPage,
  versusPicture,
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
import { BadArgumentError, SLOW_WORDS, needed, slowFrom, timesFrom, urlFrom } from './arguments';
import { DRIVE_EXIT, guardedDrive } from './drive-exit';
import { BROWSER_WORDS, browsersFrom } from './local-browsers';
import { readStepsFile } from './steps-file';
import type { LoadProgress, Side, VersusOptions } from './loads';
import { NOT_IN_TURN, runVersus, runVersusByChange } from './versus';
import { waitForChange } from './wait-for-change';

/** How the command ends, for scripts that call it. */
const EXIT = { notSlower: 0, slower: 1, ...DRIVE_EXIT } as const;

const MAX_ROUNDS = 100;

interface VersusFlags {
  steps?: string;
  rounds: string;
  slow?: string;
  browser: string;
  mode?: ProxySettings['mode'];
  out?: string;
  waitForChange?: boolean;
  json?: boolean;
  markdown?: boolean;
  html?: boolean;
  svg?: boolean;
  junit?: string;
}

/** "about 1 min 20 s". */
function aboutText(ms: number): string {
  const seconds = Math.max(1, Math.round(ms / 1000));
  return seconds < 60 ? `about ${seconds} s` : `about ${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}

function sayProgress(browser: string, rounds: number, { side, round, leftMs, brokenBy }: LoadProgress): void {
  const again = brokenBy === undefined ? '' : ` again, as the browser broke (${brokenBy})`;
  const left = leftMs === undefined ? '' : `, ${aboutText(leftMs)} to go at most`;
  say(`${browser}, round ${round} of ${rounds}: ${side === 'before' ? 'A' : 'B'}${again}${left} …`);
}

function writeText(output: Output, versus: Versus): void {
  output.line(`A: ${versus.before}`);
  output.line(`B: ${versus.after}`);
  for (const run of versus.runs) {
    output.line();
    output.line(output.style('bold', run.browser));
    output.wrapped([versusWords(run), ...versus.caveats].join(' '));
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

/** Both addresses, or one twice that is waited for to change. @throws BadArgumentError */
function addressesFrom(a: string, b: string | undefined, flags: VersusFlags): Readonly<Record<Side, URL>> {
  if (b === undefined && flags.waitForChange !== true)
    throw new BadArgumentError('versus takes two addresses, or one and --wait-for-change.');
  if (b !== undefined && flags.waitForChange === true)
    throw new BadArgumentError(
      '--wait-for-change takes one address: what stands there now is A, what comes is B.',
    );
  return { before: urlFrom(a, 'address A'), after: urlFrom(b ?? a, 'address B') };
}

/** Settles when Enter is pressed; undefined where nobody sits in front of it. */
function enterPressed(): Promise<void> | undefined {
  if (!process.stdin.isTTY) return undefined;
  return new Promise((resolve) => process.stdin.once('data', () => resolve()));
}

async function changed(page: URL): Promise<void> {
  const said = enterPressed();
  const orEnter = said === undefined ? '' : ', or with Enter';
  const ready = `All loads of A are made. Build B now: it goes on when ${page.href} has changed${orEnter} …`;
  const onReady = () => say(ready);
  await waitForChange({ page, onReady, ...(said === undefined ? {} : { said }) });
  process.stdin.pause();
}

async function versusOf(a: string, b: string | undefined, flags: VersusFlags): Promise<Versus> {
  const config = await readConfig();
  const urls = addressesFrom(a, b, flags);
  const steps = await readStepsFile(needed(flags.steps ?? config.steps, 'file of steps (--steps)'));
  const rounds = timesFrom(flags.rounds, '--rounds', MAX_ROUNDS);
  const settings = settingsFrom(flags.mode === undefined ? {} : { mode: flags.mode }, config);
  const { out } = flags;
  const slow = slowFrom(flags.slow);
  const all = browsersFrom(flags.browser).map((browser): VersusOptions => {
    const onLoad = (progress: LoadProgress) => sayProgress(browser, rounds, progress);
    return { urls, steps, settings, browser, rounds, slow, out, onLoad };
  });
  if (flags.waitForChange === true) {
    const runs = await runVersusByChange({ all, changed: () => changed(urls.before) });
    const { href } = urls.before;
    return { before: `${href} (before)`, after: `${href} (after)`, runs, caveats: [NOT_IN_TURN] };
  }
  const runs: VersusRun[] = [];
  for (const options of all) runs.push((await runVersus(options)).run);
  return { before: urls.before.href, after: urls.after.href, runs, caveats: [] };
}

async function run(a: string, b: string | undefined, flags: VersusFlags): Promise<void> {
  const versus = await versusOf(a, b, flags);
  const output = new Output(process.stdout);
  const thresholds = thresholdsOf(versus.runs[0]!.typical.after.header);
  if (flags.json) output.json(versusReport(versus));
  else if (flags.markdown) output.data(versusMarkdown(versus));
  else if (flags.html) output.data(versusPage(versus, thresholds).trimEnd());
  else if (flags.svg) output.data(versusPicture(versus, thresholds).trimEnd());
  else writeText(output, versus);
  if (flags.junit !== undefined) {
    const cases = versus.runs.flatMap(({ browser, comparison }) =>
      comparisonCases(comparison).map((one) => ({ ...one, name: `${one.name}, in ${browser}` })),
    );
    await writeOut(flags.junit, junitXml(`${versus.before} against ${versus.after}`, cases));
  }
  process.exitCode = slowerIn(versus).length > 0 ? EXIT.slower : EXIT.notSlower;
}

/** Adds `nettle-patch versus`. */
export function addVersusCommand(program: Command): void {
  program
    .command('versus')
    .description('hold two addresses against each other, by fresh loads of each in turn')
    .argument('<a>', 'address of one version, such as http://localhost:3000/')
    .argument('[b]', 'address of the other')
    .option('--steps <file>', 'file of steps, as docs/steps.md describes, or a recording to be made again')
    .option('--rounds <number>', 'loads of each at most; it ends before where nothing is left to decide', '8')
    .option('--browser <names>', BROWSER_WORDS, 'chromium')
    .addOption(new Option('--mode <mode>', 'how closely to look (default: everyday)').choices(CAPTURE_MODES))
    .option('--slow <times>', SLOW_WORDS)
    .option(
      '--out <folder>',
      'keep the recordings of the loads; a run that was cut goes on with those that are there',
    )
    .option('--wait-for-change', 'one address: A is what stands there now, B what comes when it has changed')
    .option('--json', 'write it as JSON, as docs/reports.md describes')
    .option('--markdown', 'write it as Markdown, for a change request')
    .option('--html', 'write it as one HTML page that needs nothing else')
    .option('--svg', 'write it as a picture')
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
