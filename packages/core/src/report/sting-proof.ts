import { shownBreakdown } from '../attribution/breakdown-labels';
import type { Certainty } from '../attribution/segments';
import { findStings } from '../detectors/index';
import { becauseOf } from '../detectors/because';
import { anatomyOf, type Anatomy } from '../explanation/anatomy';
import { excerptOf, type Excerpt } from '../explanation/excerpt';
import { becauseText } from '../explanation/sentence';
import { delayStepMs } from '../inputs/delay-step';
import { interactionsOf } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import { seriesOf } from '../stings/series';
import type { Sting } from '../stings/sting';
import { suggestionsFor } from '../suggestions/suggest';
import { feltAndBudgetText } from '../stings/felt-text';
import { countText, numberText, percentText, roundText } from '../words/figures';
import { sourceWords } from '../words/source-words';
import { madeWords } from './comparison-words';
import { placeText, reportedFunction, type ReportedFunction } from './source-location';
import type { Thresholds } from '../format/thresholds';

/** One sting in words and figures, ready to be written down for somebody who has not got the tool. */
export interface StingProof {
  readonly title: string;
  readonly because: string;
  readonly anatomy: Anatomy;
  /** Kinds of work with what each took. */
  readonly kinds: readonly { readonly name: string; readonly ms: number; readonly share: number }[];
  readonly culprits: readonly ProvenCulprit[];
  readonly excerpts: readonly (Excerpt & { readonly name: string; readonly chargedMs: number })[];
  readonly suggestions: readonly { readonly advice: string; readonly evidence: string }[];
  /** How it was recorded, and how often it was seen. */
  readonly made: readonly string[];
  /** What each figure rests on, and what is not known. */
  readonly known: readonly string[];
  /** Name of a function by its id. */
  nameOf(functionId: number): string;
}

export interface ProvenCulprit extends ReportedFunction {
  readonly place: string;
  readonly selfMs: number;
  readonly chargedMs: number;
  readonly savedMs: number;
}

const MAX_CULPRITS = 6;
const MAX_EXCERPTS = 2;
/** What is charged with less than this share of the dearest is not worth a row. */
const MIN_SHARE = 0.02;

/** @param index of the sting, in order of rank @throws RangeError where there is none */
export function stingProofOf(
  recording: Recording,
  index: number,
  thresholds: Thresholds,
  stings: readonly Sting[] = findStings(recording, thresholds),
): StingProof {
  const sting = stings[index];
  if (sting === undefined) {
    throw new RangeError(`there is no sting ${index + 1}: the recording has ${stings.length}`);
  }
  const anatomy = anatomyOf(recording, sting);
  const least = (anatomy.culprits[0]?.chargedMs ?? 0) * MIN_SHARE;
  const worth = anatomy.culprits
    .filter(({ chargedMs }, at) => at === 0 || chargedMs >= least)
    .slice(0, MAX_CULPRITS);
  const nameOf = (functionId: number) => reportedFunction(recording, functionId).name;
  return {
    title: `${sting.label}: ${feltAndBudgetText(sting)}`,
    because: becauseText(becauseOf(recording, anatomy)),
    anatomy,
    kinds: shownBreakdown(anatomy.blame).map(({ name, ms }) => ({
      name,
      ms,
      share: ms / anatomy.blame.totalMs,
    })),
    culprits: worth.map(({ functionId, selfMs, chargedMs, savedMs }) => {
      const reported = reportedFunction(recording, functionId);
      return { ...reported, place: placeText(reported), selfMs, chargedMs, savedMs };
    }),
    excerpts: worth
      .flatMap((culprit) => {
        const excerpt = excerptOf(recording, culprit);
        const { functionId, chargedMs } = culprit;
        return excerpt?.knowsLines === true ? [{ ...excerpt, name: nameOf(functionId), chargedMs }] : [];
      })
      .slice(0, MAX_EXCERPTS),
    suggestions: suggestionsFor(recording, anatomy).map(({ advice, evidence }) => ({
      advice: becauseText(advice),
      evidence: becauseText(evidence),
    })),
    made: [madeSentence(recording), oftenWords(recording, stings, sting)],
    known: knownWords(recording, anatomy),
    nameOf,
  };
}

function madeSentence(recording: Recording): string {
  const { title, target, startedAt } = recording.header;
  const named = title || target.title;
  return `Recorded ${startedAt.slice(0, 10)}${named === '' ? '' : ` as “${named}”`} of ${target.url} (${madeWords(recording)}).`;
}

function oftenWords(recording: Recording, stings: readonly Sting[], sting: Sting): string {
  const series = seriesOf(stings, interactionsOf(recording)).find((one) => one.stings.includes(sting));
  const count = series?.stings.length ?? 1;
  const attempts = series?.attempts ?? 0;
  const rank = (series?.stings.indexOf(sting) ?? 0) + 1;
  const of =
    attempts > count ? `${countText(count)} of ${countText(attempts)} times` : `${countText(count)} times`;
  if (count === 1) {
    return attempts > 1
      ? `It went beyond the budget once in ${countText(attempts)} times.`
      : 'It was seen once.';
  }
  return `It went beyond the budget ${of}; this is ${rank === 1 ? 'the worst' : `number ${rank}, the worst being 1`}.`;
}

const CERTAIN: Readonly<Record<Certainty, string>> = {
  measured: 'timed call by call',
  sampled: 'told by samples',
  inferred: 'inferred, as nothing was seen of it',
};

function knownWords(recording: Recording, anatomy: Anatomy): string[] {
  const { sting, segments } = anatomy;
  const { header } = recording;
  const words: string[] = [];
  const stepMs = delayStepMs(recording);
  if (sting.interaction !== undefined) {
    words.push(`The delay is from the input to the screen, in steps of ${numberText(stepMs)} ms.`);
  }
  const script = segments.filter(({ activity }) => activity === 'script');
  const lengthOf = (some: typeof script) => some.reduce((sum, one) => sum + one.endMs - one.startMs, 0);
  const all = lengthOf(script);
  const parts = (Object.keys(CERTAIN) as Certainty[])
    .map((certainty) => [certainty, lengthOf(script.filter((one) => one.certainty === certainty))] as const)
    .filter(([, ms]) => ms >= all / 200 && ms > 0)
    .map(([certainty, ms]) => `${percentText(ms / all)} is ${CERTAIN[certainty]}`);
  if (parts.length > 0) words.push(`Of ${roundText(all)} ms of script, ${parts.join(', ')}.`);
  if (anatomy.recorderMs >= 1) {
    words.push(`The recorder’s own script took ${roundText(anatomy.recorderMs)} ms of it.`);
  }
  words.push('“Would save up to” is an upper bound: what a function calls would go with it.');
  if (header.missing.length > 0) {
    words.push(`Not told by this browser or mode: ${header.missing.map(sourceWords).join(', ')}.`);
  }
  return words;
}
