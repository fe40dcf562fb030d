import { percentText, roundText } from '../words/figures';
import { escapeXml } from './escape-xml';
import { htmlPage, table, type Cell } from './html-page';
import { costWords } from './sting-markdown';
import { stingDrawing } from './sting-picture';
import type { StingProof } from './sting-proof';

const ms = (value: number): Cell => [`${roundText(value)} ms`, 'n'];

/** A sting as one HTML page that refers to nothing outside of itself and runs no script. */
export function stingPage(proof: StingProof): string {
  const { title, because, kinds, culprits, excerpts, suggestions, made, known } = proof;
  return htmlPage(title, [
    `<p>${escapeXml(because)}</p>`,
    stingDrawing(proof),
    '<h2>What it was spent on</h2>',
    table(
      ['', 'time', 'share'],
      kinds.map((kind) => [[kind.name], ms(kind.ms), [percentText(kind.share), 'n']]),
    ),
    ...(culprits.length === 0
      ? []
      : [
          '<h2>Functions by time</h2>',
          table(
            ['function', 'where', 'self', 'with libraries', 'would save up to'],
            culprits.map(({ name, place, selfMs, chargedMs, savedMs }) => [
              [name],
              [place, 's'],
              ms(selfMs),
              ms(chargedMs),
              ms(savedMs),
            ]),
          ),
        ]),
    ...excerpts.flatMap((excerpt) => [
      `<h2>${escapeXml(`${excerpt.name}, ${excerpt.file}`)}</h2>`,
      table(
        ['line', 'took', 'code'],
        excerpt.lines.map(({ line, text, chargedMs }) => [
          [String(line), 'n'],
          [costWords(chargedMs, excerpt.chargedMs), 'n'],
          [text, 'c'],
        ]),
      ),
    ]),
    ...(suggestions.length === 0 ? [] : ['<h2>What could be done</h2>']),
    ...suggestions.map(
      ({ advice, evidence }) =>
        `<p>${escapeXml(advice)}<br><span class="s">${escapeXml(evidence)}</span></p>`,
    ),
    '<h2>How this is known</h2>',
    `<p class="s">${escapeXml([...made, ...known].join(' '))}</p>`,
  ]);
}
