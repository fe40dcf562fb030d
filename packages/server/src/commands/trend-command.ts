import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import {
  MIN_TREND,
  thresholdsOf,
  trendOf,
  trendPage,
  trendRecording,
  trendReport,
  trendSentences,
  trendTestWords,
  trendWarning,
  type Trend,
  type TrendRecording,
} from '@nettle-patch/core';
import type { Command } from 'commander';
import type { Output } from './output';
import { EXIT_HELP, guarded, open } from './guarded';
import { FileError } from './read-recording';
import { say } from './say';
import { writeOut } from './write-out';

interface TrendFlags {
  readonly out?: string;
  readonly json?: boolean;
}

const RECORDINGS = /\.nettle\.jsonl(?:\.gz)?$/;

/** The recordings of a folder, as far as they can be read. @throws FileError */
async function recordingsIn(folder: string): Promise<TrendRecording[]> {
  let names: string[];
  try {
    names = await readdir(folder);
  } catch (error) {
    throw new FileError(`${folder} is no folder that can be read: ${(error as Error).message}`);
  }
  const all: TrendRecording[] = [];
  for (const name of names.filter((one) => RECORDINGS.test(one)).sort()) {
    try {
      const recording = await open(join(folder, name));
      all.push(trendRecording(recording, thresholdsOf(recording.header)));
    } catch (error) {
      if (!(error instanceof FileError)) throw error;
      say(`left out: ${error.message}`);
    }
  }
  if (all.length === 0)
    throw new FileError(`${folder} holds no recording (*.nettle.jsonl, *.nettle.jsonl.gz).`);
  return all;
}

function writeText(output: Output, trend: Trend): void {
  const warning = trendWarning(trend);
  if (warning !== '') output.wrapped(warning);
  for (const series of trend.series) {
    const sentences = trendSentences(series);
    if (sentences.length === 0) continue;
    output.line(output.style('bold', series.label));
    for (const words of sentences) output.wrapped(words, 2);
  }
  const changed = trend.series.filter(({ changes }) => changes.length > 0).length;
  output.line(`${changed} of ${trend.series.length} series changed.`);
  output.wrapped(trendTestWords(trend));
}

/** Adds `nettle-patch trend`. */
export function addTrend(program: Command): void {
  program
    .command('trend')
    .description(
      'follow what was done over many recordings, and say from which on it became slower or faster',
    )
    .argument('<folder>', `folder of recordings, at least ${MIN_TREND}`)
    .option('--out <file>', 'write it as one HTML page that needs nothing else')
    .option('--json', 'write it as JSON, as docs/reports.md describes')
    .addHelpText('after', EXIT_HELP)
    .action(
      guarded(async (output, folder: string, { out, json }: TrendFlags) => {
        const trend = trendOf(await recordingsIn(folder));
        const { responseMs } = thresholdsOf({});
        if (out !== undefined) await writeOut(out, trendPage(trend, `Trend of ${folder}`, responseMs));
        if (json) output.json(trendReport(trend));
        else if (out === undefined) writeText(output, trend);
      }),
    );
}
