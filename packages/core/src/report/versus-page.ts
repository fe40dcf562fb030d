import type { Thresholds } from '../format/thresholds';
import { changeWords, firmnessWords, outcomeWords, verdictWords } from './comparison-words';
import { escapeXml } from './escape-xml';
import { htmlPage, table } from './html-page';
import { versusPicture } from './versus-picture';
import { VERSUS_UNKNOWN, sideText, versusWords, type Versus, type VersusRun } from './versus-report';

function runParts(run: VersusRun): string[] {
  const { series, tested, level } = run.comparison;
  const how = { before: 'of A', after: 'of B', level };
  return [
    `<h2>${escapeXml(run.browser)}: ${escapeXml(outcomeWords(series))}</h2>`,
    `<p class="s">${escapeXml(versusWords(run))}</p>`,
    table(
      ['what', 'A', 'B', 'B is', 'difference', 'how firm'],
      series.map((one) => [
        [one.label],
        [sideText(one.before)],
        [sideText(one.after)],
        [verdictWords(one.verdict), one.verdict === 'slower' ? 'w' : undefined],
        [changeWords(one)],
        [firmnessWords(one, tested, how), 's'],
      ]),
    ),
  ];
}

/** A versus run as one HTML page that refers to nothing outside of itself and runs no script. */
export function versusPage(versus: Versus, thresholds: Thresholds): string {
  const { before, after, runs } = versus;
  return htmlPage('A against B', [
    `<p>A: ${escapeXml(before)}<br>B: ${escapeXml(after)}</p>`,
    `<p class="s">${escapeXml(VERSUS_UNKNOWN)}</p>`,
    ...versus.caveats.map((caveat) => `<p class="w">${escapeXml(caveat)}</p>`),
    versusPicture(versus, thresholds),
    ...runs.flatMap(runParts),
  ]);
}
