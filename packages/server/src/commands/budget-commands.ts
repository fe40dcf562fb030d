import { budgetCases, budgetFrom, checkBudget, junitXml } from '@nettle-patch/core';
import type { Command } from 'commander';
import { CONFIG_NAME, readConfig } from '../start/config';
import { readBudget, writeCheck } from './check';
import { EXIT, EXIT_HELP, JUNIT_HELP, guarded, openAll } from './guarded';
import { FileError } from './read-recording';
import { wholeNumber } from './whole-number';
import { writeOut } from './write-out';

const MEDIAN_HELP = 'hold the median of all repeats against it, and not the worst';

interface CheckFlags {
  readonly budget?: string;
  readonly median?: boolean;
  readonly json?: boolean;
  readonly markdown?: boolean;
  readonly junit?: string;
}

/** Adds `nettle-patch check`. */
export function addCheck(program: Command): void {
  program
    .command('check')
    .description('hold recordings against a budget')
    .argument('<files...>', 'recordings: of several, the worst figures count')
    .option(
      '--budget <file>',
      `budget, as docs/reports.md describes (default: the one that ${CONFIG_NAME} names)`,
    )
    .option('--median', MEDIAN_HELP)
    .option('--json', 'write it as JSON')
    .option('--markdown', 'write it as Markdown')
    .option('--junit <file>', JUNIT_HELP)
    .addHelpText(
      'after',
      `
Exit codes: ${EXIT.done} the budget is kept; ${EXIT.exceeded} it is exceeded; ${EXIT.unusable} a file or an argument cannot be used.`,
    )
    .action(
      guarded(async (output, files: string[], flags: CheckFlags) => {
        const path = flags.budget ?? (await readConfig()).budget;
        if (path === undefined) {
          throw new FileError(`There is no budget: give one with --budget, or name it in ${CONFIG_NAME}.`);
        }
        const budget = await readBudget(path);
        const recordings = await openAll(files);
        const results = checkBudget(recordings, budget, flags.median ? 'median' : 'worst');
        const as = (['json', 'markdown'] as const).find((form) => flags[form]) ?? 'text';
        if (!writeCheck(output, recordings, results, as)) process.exitCode = EXIT.exceeded;
        if (flags.junit !== undefined)
          await writeOut(flags.junit, junitXml(`Budget of ${files.join(', ')}`, budgetCases(results)));
      }),
    );
}

interface BudgetFlags {
  readonly margin: number;
  readonly median?: boolean;
  readonly out?: string;
}

const MAX_MARGIN = 1000;

/** Adds `nettle-patch budget`. */
export function addBudget(program: Command): void {
  program
    .command('budget')
    .description('make a budget that recordings keep as they are, to hold what comes after against')
    .argument('<files...>', 'recordings')
    .option('--margin <percent>', 'how much more is allowed than was found', wholeNumber(MAX_MARGIN), 10)
    .option('--median', MEDIAN_HELP)
    .option('--out <file>', 'file to write (default: standard output)')
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, files: string[], { margin, median, out }: BudgetFlags) => {
        const by = median ? 'median' : 'worst';
        const budget = budgetFrom(await openAll(files), { margin: margin / 100, by });
        const text = JSON.stringify(budget, null, 2);
        if (out === undefined) output.data(text);
        else await writeOut(out, `${text}\n`);
      }),
    );
}
