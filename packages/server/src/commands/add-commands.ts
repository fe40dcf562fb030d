import {
  TABLES,
  comparisonCases,
  junitXml,
  thresholdsOf,
  writeSteps,
  type Recording,
  type TableName,
  type Thresholds,
  EXPORTERS,
  type Exporter,
  type ExportFormat,
} from '@nettle-patch/core';
import { Option, type Command } from 'commander';
import { writeCalls, type CallsFlags } from './calls';
import { addBudget, addCheck } from './budget-commands';
import { addTrend } from './trend-command';
import { writeComparison } from './compare';
import { writeSeveral } from './compare-several';
import { writeExplanation } from './explain';
import { stingText } from './sting-text';
import { rangeFrom, type RangeFlags } from './range-flags';
import { stepsOf } from '../drive/steps-file';
import { readJson } from './read-json';
import { say } from './say';
import { EXIT_HELP, JUNIT_HELP, guarded, open, openAll } from './guarded';
import { FileError } from './read-recording';
import { wholeNumber } from './whole-number';
import { writeOut } from './write-out';

interface ReportFlags {
  readonly json?: boolean;
  readonly thresholds?: string;
}

const THRESHOLDS_HELP = 'budgets to hold it against, as docs/reports.md describes';

async function thresholdsFor({ header }: Recording, path: string | undefined): Promise<Thresholds> {
  if (path === undefined) return thresholdsOf(header);
  return readJson(path, (given) => thresholdsOf(header, given as object));
}

/** More than a recording has. */
const MAX_STING = 1e6;

interface ExplainFlags extends ReportFlags, RangeFlags {
  readonly sting?: number;
  readonly markdown?: boolean;
  readonly html?: boolean;
  readonly svg?: boolean;
}

function addExplain(program: Command): void {
  program
    .command('explain')
    .description('say why each input had to wait, and what could be done')
    .argument('<file>', 'recording')
    .option('--thresholds <file>', THRESHOLDS_HELP)
    .option('--from <ms>', 'begin of a range, which is summed too')
    .option('--to <ms>', 'end of it')
    .option('--json', 'write it as JSON, as docs/reports.md describes')
    .option(
      '--sting <number>',
      'write a report of this one only, by its number in the list',
      wholeNumber(MAX_STING),
    )
    .option('--markdown', 'write that report as Markdown, for a change request (so it is without a form)')
    .option('--html', 'write it as one HTML page that needs nothing else')
    .option('--svg', 'write it as a picture')
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, file: string, { json = false, thresholds, ...flags }: ExplainFlags) => {
        const recording = await open(file);
        const budgets = await thresholdsFor(recording, thresholds);
        const form = (['markdown', 'html', 'svg'] as const).find((one) => flags[one]);
        if (flags.sting !== undefined) {
          output.data(stingText(recording, flags.sting, budgets, form ?? 'markdown').trimEnd());
        } else if (form === undefined) {
          writeExplanation(output, recording, budgets, json, rangeFrom(recording, flags));
        } else {
          throw new FileError(
            `--${form} writes a report of one sting: say which, with --sting 1 for the worst.`,
          );
        }
      }),
    );
}

function addCalls(program: Command): void {
  program
    .command('calls')
    .description('list functions with what they took')
    .argument('<file>', 'recording')
    .option('--json', 'write it as JSON, as docs/reports.md describes')
    .option('--from <ms>', 'begin of the range')
    .option('--to <ms>', 'end of the range')
    .option('--thread <id>', 'thread, 0 for the main thread')
    .option('--min <ms>', 'charge calls shorter than this to what called them')
    .option('--own', 'charge the time of libraries to the own function that called them')
    .option('--fold-recursion', 'take a function that calls itself for one call')
    .option('--focus <name...>', 'only what these functions called')
    .option('--text <text>', 'only functions whose name or file contains this')
    .option('--lines', 'list lines of the source in place of functions')
    .option('--top <number>', 'lines to write', '40')
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, file: string, { json = false, ...flags }: CallsFlags & { json?: boolean }) => {
        writeCalls(output, await open(file), flags, json);
      }),
    );
}

interface CompareFlags extends ReportFlags {
  readonly markdown?: boolean;
  readonly html?: boolean;
  readonly svg?: boolean;
  readonly junit?: string;
}

function addCompare(program: Command): void {
  program
    .command('compare')
    .description('say what changed from one recording to another, and whether it is more than noise')
    .argument('<before>', 'recording before the change')
    .argument('<after>', 'recording after it')
    .argument(
      '[others...]',
      'more recordings, up to eight in all: a table of each thing that was done by recordings',
    )
    .option('--thresholds <file>', THRESHOLDS_HELP)
    .option('--json', 'write it as JSON, as docs/reports.md describes')
    .option('--markdown', 'write it as Markdown, for a change request')
    .option('--html', 'write it as one HTML page that needs nothing else')
    .option('--svg', 'write it as a picture')
    .option('--junit <file>', JUNIT_HELP)
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, before: string, after: string, others: string[], flags: CompareFlags) => {
        const as = (['json', 'markdown', 'html', 'svg'] as const).find((form) => flags[form]) ?? 'text';
        const [was, is] = [await open(before), await open(after)];
        const thresholds = await thresholdsFor(is, flags.thresholds);
        if (others.length > 0) {
          if (flags.junit !== undefined)
            throw new FileError('--junit takes two recordings: before a change and after it.');
          writeSeveral(output, [was, is, ...(await openAll(others))], thresholds, as);
          return;
        }
        const comparison = writeComparison(output, was, is, thresholds, as);
        if (flags.junit === undefined) return;
        await writeOut(flags.junit, junitXml(`${before} against ${after}`, comparisonCases(comparison)));
      }),
    );
}

interface ConvertFlags {
  readonly to: ExportFormat;
  readonly out?: string;
  readonly table: TableName;
}

function addConvert(program: Command): void {
  program
    .command('convert')
    .description('write a recording in another open format')
    .argument('<file>', 'recording')
    .addOption(
      new Option('--to <format>', 'format to write').choices(Object.keys(EXPORTERS)).makeOptionMandatory(),
    )
    .addOption(new Option('--table <name>', 'table to write as CSV').choices(TABLES).default('functions'))
    .option('--out <file>', 'file to write; ".gz" at its end compresses it (default: standard output)')
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, file: string, { to, out, table }: ConvertFlags) => {
        const { leftOut, lines: linesIn }: Exporter = EXPORTERS[to];
        const lines = linesIn(await open(file), table);
        if (leftOut !== undefined) say(leftOut);
        if (out === undefined) {
          for (const line of lines) output.data(line);
          return;
        }
        const text = [...lines].map((line) => `${line}\n`).join('');
        await writeOut(out, text);
      }),
    );
}

function addSteps(program: Command): void {
  program
    .command('steps')
    .description('write what was done in a recording as steps, so that it can be done again')
    .argument('<file>', 'recording')
    .option('--out <file>', 'file to write (default: standard output)')
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, file: string, { out }: { out?: string }) => {
        const text = writeSteps(stepsOf(await open(file), file));
        if (out === undefined) output.data(text.trimEnd());
        else await writeOut(out, text);
      }),
    );
}

/** Adds the commands that read recordings. */
export function addReadingCommands(program: Command): void {
  addExplain(program);
  addCalls(program);
  addCompare(program);
  addConvert(program);
  addCheck(program);
  addBudget(program);
  addTrend(program);
  addSteps(program);
}
