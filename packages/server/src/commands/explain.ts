import {
  BREAKDOWN_PARTS,
  BREAKDOWN_LABELS,
  explainReport,
  placeText,
  type ExplainReport,
  type Recording,
  type ReportedSting,
  type Thresholds,
  countText,
  secondsText,
} from '@nettle-patch/core';
import type { Output } from './output';

const ms = (value: number) => `${value < 10 ? value.toFixed(1) : countText(value)} ms`;

function writeSting(output: Output, sting: ReportedSting, number: number): void {
  const { kind, also, label, feltMs, budgetMs, startMs } = sting;
  const kinds = [kind, ...also].join(', ').replaceAll('-', ' ');
  output.line();
  output.line(
    `${number}. ${output.style('bold', label)}  ${output.style('red', ms(feltMs))}, budget ${ms(budgetMs)}`,
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
        culprit.count > 0 ? `${countText(culprit.count)} calls` : '',
      ]),
    [false, false, true, true, true],
    3,
  );
  for (const { advice, evidence } of sting.suggestions) {
    output.wrapped(`→ ${advice}`, 3);
    output.wrapped(evidence, 5);
  }
}

function writeText(output: Output, { recording, stings }: ExplainReport): void {
  const { title, engine, device, mode, lengthMs } = recording;
  output.line(
    `${output.style('bold', title || 'Recording')}: ${engine}, ${device}, ${mode}, ${secondsText(lengthMs, 1)}`,
  );
  if (stings.length === 0) output.line('No stings: nothing went beyond its budget.');
  else output.line(`${stings.length} ${stings.length === 1 ? 'sting' : 'stings'}, worst first.`);
  stings.forEach((sting, index) => writeSting(output, sting, index + 1));
}

/** Writes the stings of a recording, explained. */
export function writeExplanation(
  output: Output,
  recording: Recording,
  thresholds: Thresholds,
  asJson: boolean,
): void {
  const report = explainReport(recording, thresholds);
  if (asJson) output.json(report);
  else writeText(output, report);
}
