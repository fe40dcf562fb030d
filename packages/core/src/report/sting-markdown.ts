import { percentText, roundText } from '../words/figures';
import { escapeMarkdown } from './markdown';
import type { StingProof } from './sting-proof';

const ms = (value: number) => `${roundText(value)} ms`;

/** A sting as Markdown, readable by people who have no tool at hand. */
export function stingMarkdown(proof: StingProof): string {
  const { title, because, anatomy, kinds, culprits, suggestions } = proof;
  const phases = anatomy.phases.filter(({ startMs, endMs }) => endMs > startMs);
  return [
    `### ${escapeMarkdown(title)}`,
    '',
    escapeMarkdown(because),
    ...(phases.length > 1
      ? ['', phases.map(({ name, startMs, endMs }) => `${name} ${ms(endMs - startMs)}`).join(' → ')]
      : []),
    ...(kinds.length > 0
      ? ['', `Spent on: ${kinds.map((kind) => `${kind.name} ${ms(kind.ms)}`).join(', ')}.`]
      : []),
    ...table(
      ['function', 'where', 'self', 'with libraries', 'would save up to'],
      culprits.map(({ name, place, selfMs, chargedMs, savedMs }) => [
        escapeMarkdown(name),
        escapeMarkdown(place),
        ms(selfMs),
        ms(chargedMs),
        ms(savedMs),
      ]),
    ),
    ...proof.excerpts.flatMap((excerpt) => [
      '',
      `${escapeMarkdown(excerpt.name)}, ${escapeMarkdown(excerpt.file)}:`,
      '',
      ...fenced(
        excerpt.lines.map(({ line, text, chargedMs }) =>
          `${costWords(chargedMs, excerpt.chargedMs).padStart(18)}  ${String(line).padStart(5)}  ${text}`.trimEnd(),
        ),
      ),
    ]),
    ...(suggestions.length > 0 ? [''] : []),
    ...suggestions.map(({ advice, evidence }) => `- ${escapeMarkdown(advice)} ${escapeMarkdown(evidence)}`),
    '',
    [...proof.made, ...proof.known].map(escapeMarkdown).join(' '),
    '',
  ].join('\n');
}

/** "210 ms, 62 %", or nothing of a line that took nothing. */
export function costWords(chargedMs: number, ofMs: number): string {
  return chargedMs === 0 ? '' : `${ms(chargedMs)}, ${percentText(chargedMs / ofMs)}`;
}

function table(head: readonly string[], rows: readonly (readonly string[])[]): string[] {
  if (rows.length === 0) return [];
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  const rule = head.map((_, at) => (at < 2 ? '---' : '---:'));
  return ['', line(head), line(rule), ...rows.map(line)];
}

/** Lines of code between fences longer than any in them (CommonMark, fenced code blocks). */
function fenced(lines: readonly string[]): string[] {
  const longest = Math.max(0, ...lines.flatMap((line) => (line.match(/`+/g) ?? []).map((run) => run.length)));
  const fence = '`'.repeat(Math.max(3, longest + 1));
  return [`${fence}text`, ...lines, fence];
}
