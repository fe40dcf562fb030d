import type { ComparedSeries, SeriesSide, Verdict } from '../compare/compare-series';
import type { Recording } from '../recording/recording';

const VERDICTS: Record<Verdict, string> = {
  faster: 'faster',
  slower: 'slower',
  'no-clear-change': 'no clear change',
  'too-few-to-say': 'too few to say',
  gone: 'gone',
  new: 'new',
};

export function verdictWords(verdict: Verdict): string {
  return VERDICTS[verdict];
}

/** A side of a series in short: "612 ms, worst 640, × 5". */
export function sideWords({ count, medianMs, worstMs }: SeriesSide): string {
  if (medianMs === undefined) return '–';
  return count === 1
    ? `${Math.round(medianMs)} ms`
    : `${Math.round(medianMs)} ms, worst ${Math.round(worstMs!)}, × ${count}`;
}

/** By how much the median changed, with its interval; empty where that cannot be said. */
export function changeWords({ change }: Pick<ComparedSeries, 'change'>): string {
  if (change === undefined) return '';
  const [difference, low, high] = [change.difference, change.low, change.high].map(Math.round) as [
    number,
    number,
    number,
  ];
  return `${signed(difference)} ms, 95 % between ${signed(low)} and ${signed(high)}`;
}

function signed(ms: number): string {
  return ms > 0 ? `+${ms}` : `${ms}`.replace('-', '−');
}

/** How a recording was made: "Blink 156, computer, everyday". */
export function madeWords({ header }: Recording): string {
  return `${header.target.engine}, ${header.target.device}, ${header.mode}`;
}

/** What all of it comes to, in one sentence. */
export function outcomeWords(series: readonly ComparedSeries[]): string {
  const words: Partial<Record<Verdict, string>> = { 'too-few-to-say': 'done too few times to say' };
  const counted = (verdict: Verdict) => series.filter((one) => one.verdict === verdict).length;
  const parts = (['slower', 'faster', 'gone', 'new', 'no-clear-change', 'too-few-to-say'] as const)
    .map((verdict) => [counted(verdict), words[verdict] ?? verdictWords(verdict)] as const)
    .filter(([count]) => count > 0)
    .map(([count, told]) => `${count} ${told}`);
  return parts.length === 0 ? 'Nothing was done in both that could be compared.' : `${parts.join(', ')}.`;
}
