import type { Trial } from '../trials/trial';
import { trialHowWords } from '../trials/trial-words';
import { escapeXml } from './escape-xml';
import { htmlPage, table, type Cell } from './html-page';
import { trialPicture } from './trial-picture';
import { TRIAL_UNKNOWN, trialRows, trialSentences, whereWords, type TrialRun } from './trial-report';

function runParts(trial: Trial, run: TrialRun): string[] {
  const [head, ...rows] = trialRows(run.result);
  return [
    `<h2>${escapeXml(whereWords(run))}</h2>`,
    table(
      head!,
      rows.map(([name, ...figures]) => [[name!], ...figures.map((words): Cell => [words, 'n'])]),
    ),
    '<ul>',
    ...trialSentences(trial, run.result).map((words) => `<li>${escapeXml(words)}</li>`),
    '</ul>',
    `<p class="s">${escapeXml(trialHowWords(run.result))}</p>`,
  ];
}

const codePart = (name: string, code: string) =>
  `<h2>${escapeXml(name)}</h2><pre class="c">${escapeXml(code)}</pre>`;

/** A trial as one HTML page that refers to nothing outside of itself and runs no script. */
export function trialPage(trial: Trial, runs: readonly TrialRun[]): string {
  return htmlPage(trial.name, [
    `<p class="s">${escapeXml(TRIAL_UNKNOWN)}</p>`,
    trialPicture(trial, runs),
    ...runs.flatMap((run) => runParts(trial, run)),
    ...(trial.setUp.trim() === '' ? [] : [codePart('Set-up', trial.setUp)]),
    ...trial.alternatives.map(({ name, code }) => codePart(name, code)),
  ]);
}
