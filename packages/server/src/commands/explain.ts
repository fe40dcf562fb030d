import {
  decimalText,
  roundText,
  BREAKDOWN_PARTS,
  BREAKDOWN_LABELS,
  budgetText,
  captureModeWords,
  feltText,
  explainReport,
  placeText,
  type ExplainReport,
  shownBreakdown,
  sumsReport,
  type Recording,
  type ReportedSting,
  type ReportedSums,
  type Thresholds,
  type TimeRange,
  bytesText,
  countText,
  countedText,
  percentText,
  secondsText,
} from '@nettle-patch/core';
import type { Output } from './output';

const ms = (value: number) => `${roundText(value)} ms`;

/** "62 % on line 26", of what is charged to a function; nothing where lines are not known. */
function hottestText({
  chargedMs,
  hotLines: [hottest],
}: {
  readonly chargedMs: number;
  readonly hotLines: readonly { readonly line: number; readonly chargedMs: number }[];
}): string {
  return hottest === undefined ? '' : `${percentText(hottest.chargedMs / chargedMs)} on line ${hottest.line}`;
}

function writeSting(output: Output, sting: ReportedSting, number: number): void {
  const { kind, also, label, startMs } = sting;
  const kinds = [kind, ...also].join(', ').replaceAll('-', ' ');
  output.line();
  output.line(
    `${number}. ${output.style('bold', label)}  ${output.style('red', feltText(sting))}, budget ${budgetText(sting)}`,
  );
  output.line(output.style('dim', `   ${kinds}, at ${secondsText(startMs)}`));
  output.wrapped(sting.because, 3);
  const parts = BREAKDOWN_PARTS.filter((part) => sting.blame[part] >= 0.5).map(
    (part) => `${BREAKDOWN_LABELS[part]} ${ms(sting.blame[part])}`,
  );
  output.wrapped(`${parts.join(', ')}.`, 3);
  output.table(
    sting.culprits
      .slice(0, 5)
      .map((culprit) => [
        culprit.name,
        placeText(culprit),
        `self ${ms(culprit.selfMs)}`,
        `total ${ms(culprit.totalMs)}`,
        culprit.count > 0 ? countedText(culprit.count, 'call') : '',
        hottestText(culprit),
      ]),
    [false, false, true, true, true, false],
    3,
  );
  for (const { advice, evidence } of sting.suggestions) {
    output.wrapped(`→ ${advice}`, 3);
    output.wrapped(evidence, 5);
  }
}

function writeText(output: Output, { recording, stings }: ExplainReport, sums?: ReportedSums): void {
  const { title, engine, device, mode, isolated, lengthMs } = recording;
  const how = captureModeWords(mode, isolated);
  output.line(
    `${output.style('bold', title || 'Recording')}: ${engine}, ${device}, ${how}, ${secondsText(lengthMs, 1)}`,
  );
  if (sums !== undefined) {
    writeSums(output, sums);
    output.line();
  }
  if (stings.length === 0) output.line('No stings: nothing went beyond its budget.');
  else output.line(`${stings.length} ${stings.length === 1 ? 'sting' : 'stings'}, worst first.`);
  stings.forEach((sting, index) => writeSting(output, sting, index + 1));
}

const MAX_FUNCTIONS = 8;
const MAX_REDRAWS = 8;

function writeSums(output: Output, sums: ReportedSums): void {
  const { fromMs, toMs, kinds, functions, inputs, frames, requests, redraws, memory } = sums;
  const lengthMs = toMs - fromMs;
  output.line();
  output.line(output.style('bold', `Sum from ${secondsText(fromMs, 3)} to ${secondsText(toMs, 3)}`));
  output.table(
    shownBreakdown(kinds).map((kind) => [kind.name, ms(kind.ms), percentText(kind.ms / lengthMs)]),
    [false, true, true],
    3,
  );
  if (functions.length > 0) output.line('   Functions by time:');
  output.table(
    functions
      .slice(0, MAX_FUNCTIONS)
      .map((one) => [one.name, placeText(one), ms(one.chargedMs), hottestText(one)]),
    [false, false, true, false],
    5,
  );
  const { worst } = inputs;
  const longestInput = worst === null ? '' : `; longest ${worst.label}, ${ms(worst.feltMs)}`;
  output.wrapped(
    `Inputs: ${countText(inputs.count)}, ${countText(inputs.over)} over ${inputs.budgetMs} ms${longestInput}.`,
    3,
  );
  output.wrapped(
    `Frames: ${countText(frames.count)}, ${countText(frames.late)} late, ${countText(frames.missed)} missed; longest ${ms(frames.longestMs)}, budget ${decimalText(frames.budgetMs, 1)} ms.`,
    3,
  );
  const { longest } = requests;
  const longestRequest = longest === null ? '' : `; longest ${longest.url}, ${ms(longest.durationMs)}`;
  output.wrapped(
    `Requests: ${countText(requests.count)}, ${bytesText(requests.bytes)}, ${countText(requests.failed)} failed${longestRequest}.`,
    3,
  );
  const { firstBytes, lastBytes, collections, collectedMs } = memory;
  const used =
    firstBytes === null || lastBytes === null
      ? 'not read'
      : `${bytesText(firstBytes)} to ${bytesText(lastBytes)}`;
  output.wrapped(
    `Memory: ${used}; ${countedText(collections, 'collection')}${collectedMs > 0 ? `, ${ms(collectedMs)}` : ''}.`,
    3,
  );
  if (redraws.length > 0) output.line('   Redraws by element:');
  output.table(
    redraws
      .slice(0, MAX_REDRAWS)
      .map(({ target, count, visible, unchanged, writer }) => [
        target ?? 'not told',
        countedText(count, 'time'),
        `${countText(visible)} seen`,
        `${countText(unchanged)} without a change`,
        writer === null ? '' : `by ${writer.name}`,
      ]),
    [false, true, true, true, false],
    5,
  );
}

/**
 * Writes the stings of a recording, explained.
 * @param range only the stings in it, after what it holds, summed
 */
export function writeExplanation(
  output: Output,
  recording: Recording,
  thresholds: Thresholds,
  asJson: boolean,
  range?: TimeRange,
): void {
  const report = explainReport(recording, thresholds, range);
  const sums = range && sumsReport(recording, range, thresholds);
  if (asJson) output.json(sums === undefined ? report : { ...report, sums });
  else writeText(output, report, sums);
}
