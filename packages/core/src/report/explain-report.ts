import { anatomyOf, type Anatomy } from '../explanation/anatomy';
import { calledBetween } from '../explanation/called-between';
import type { Culprit } from '../explanation/culprits';
import { becauseOf } from '../detectors/because';
import { BREAKDOWN_PARTS, type BreakdownPart } from '../attribution/time-breakdown';
import { captureModeOf } from '../format/header';
import { canonicalFunction } from '../attribution/call-path';
import { causeInRange } from '../explanation/cause-chain';
import { becauseText } from '../explanation/sentence';
import { delayStepMs } from '../inputs/delay-step';
import type { Recording, TimeRange } from '../recording/recording';
import { weightUnit } from '../recording/weights';
import { findStings } from '../detectors/index';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import { codeOfLine } from '../sources/code-of-line';
import { suggestionsFor } from '../suggestions/suggest';
import { reportedFunction, type ReportedFunction } from './source-location';
import { roundMs } from '../format/microseconds';

/** Grows when a field changes its meaning or goes; fields may be added without. */
export const REPORT_VERSION = 1;

/** One step of how it came to what took the time: an input, an entry into script, or what that asked for. */
export interface ReportedCause {
  readonly type: 'input' | 'handler' | 'schedule';
  readonly startMs: number;
  /** What was done, entered or asked for. */
  readonly what: string;
  readonly name: string | null;
  readonly delayMs: number | null;
}

export interface ReportedSting {
  readonly kind: string;
  /** Other kinds that were found at the same place and are part of it. */
  readonly also: readonly string[];
  readonly label: string;
  readonly startMs: number;
  readonly endMs: number;
  readonly feltMs: number;
  readonly budgetMs: number;
  /** Whether both are milliseconds of each second, of what goes on, and no delay. */
  readonly isRate: boolean;
  /** Of an outcome, the time of all phases of a name; only outcomes have requests, timers and pages loading. */
  readonly phases: {
    readonly waitingMs: number;
    readonly handlingMs: number;
    readonly requestMs: number;
    readonly timerMs: number;
    readonly workerMs: number;
    readonly loadingMs: number;
    readonly drawingMs: number;
  };
  /** Sums to `endMs` less `startMs`. `drawingMs` is style, layout and paint where they are not told apart. */
  readonly blame: Readonly<Record<BreakdownPart, number>>;
  readonly culprits: readonly (ReportedFunction & {
    readonly selfMs: number;
    readonly totalMs: number;
    /** Exact calls; 0 where only samples tell. */
    readonly count: number;
    /** How often it was called, by exact calls or by counts, which are told once a second; null where neither tells. */
    readonly calledAtLeast: number | null;
    readonly calledAtMost: number | null;
    /** Its own time, and that of the libraries and the engine it called: the order goes by it. */
    readonly chargedMs: number;
    /** The delay that would be saved at most: an upper bound, as what it called would go too. */
    readonly savedMs: number;
    /** Where in it that was, at most five lines; none where lines are not known. */
    readonly hotLines: readonly {
      readonly line: number;
      readonly chargedMs: number;
      /** Share of what is charged to the function, 0 to 1. */
      readonly share: number;
      readonly code: string | null;
    }[];
  })[];
  readonly forcedLayouts: readonly {
    readonly name: string | null;
    readonly file: string | null;
    readonly line: number | null;
    readonly count: number;
    readonly totalMs: number;
    readonly read: string;
    readonly write: string | null;
  }[];
  readonly cause: readonly ReportedCause[];
  readonly because: string;
  readonly suggestions: readonly {
    readonly kind: string;
    readonly advice: string;
    readonly evidence: string;
    readonly savesMs: number;
  }[];
}

/** What `nettle-patch explain --json` writes. Times are milliseconds. */
export interface ExplainReport {
  readonly version: typeof REPORT_VERSION;
  readonly recording: {
    readonly title: string;
    readonly url: string;
    readonly engine: string;
    readonly device: string;
    readonly mode: string;
    /** Whether the page was isolated and shared its memory, so that fine mode took its samples from outside. */
    readonly isolated: boolean;
    /** Unit of all that calls took: "ms", or what the stacks of another format weigh. */
    readonly unit: string;
    /** Delays of inputs are told in steps of this. Milliseconds. */
    readonly delayStepMs: number;
    readonly startedAt: string;
    readonly lengthMs: number;
    readonly missing: readonly string[];
    readonly dropped: number;
  };
  readonly stings: readonly ReportedSting[];
}

const MAX_CULPRITS = 10;
const MAX_HOT_LINES = 5;

function causeOf(recording: Recording, sting: Sting): ReportedCause[] {
  return causeInRange(recording, sting.thread, sting).map((link) => {
    const at = { type: link.type, startMs: roundMs(link.startMs) };
    if (link.type === 'input') return { ...at, what: link.label, name: null, delayMs: null };
    const name = link.functionId === undefined ? null : reportedFunction(recording, link.functionId).name;
    if (link.type === 'handler') return { ...at, what: link.entry, name, delayMs: null };
    return { ...at, what: link.url ?? link.what, name, delayMs: link.delayMs ?? null };
  });
}

function phasesOf({ phases }: Anatomy): ReportedSting['phases'] {
  const of = (name: string) => {
    const named = phases.filter((one) => one.name === name);
    return roundMs(named.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0));
  };
  return {
    waitingMs: of('waiting'),
    handlingMs: of('handling'),
    requestMs: of('request'),
    timerMs: of('timer'),
    workerMs: of('worker'),
    loadingMs: of('loading'),
    drawingMs: of('drawing'),
  };
}

function reportCulprit(
  recording: Recording,
  sting: Sting,
  culprit: Culprit,
): ReportedSting['culprits'][number] {
  const { functionId, selfMs, totalMs, count, chargedMs, savedMs, hotLines } = culprit;
  const called = calledBetween(recording, culprit, sting.thread, sting);
  return {
    ...reportedFunction(recording, functionId),
    selfMs: roundMs(selfMs),
    totalMs: roundMs(totalMs),
    count,
    calledAtLeast: called?.least ?? null,
    calledAtMost: called?.most ?? null,
    chargedMs: roundMs(chargedMs),
    savedMs: roundMs(savedMs),
    hotLines: hotLines.slice(0, MAX_HOT_LINES).map((hot) => ({
      line: hot.line,
      chargedMs: roundMs(hot.chargedMs),
      share: roundMs(hot.chargedMs / chargedMs),
      code: codeOfLine(recording, functionId, hot.line) ?? null,
    })),
  };
}

/** One sting as reports tell of it. */
export function reportSting(recording: Recording, sting: Sting): ReportedSting {
  const anatomy = anatomyOf(recording, sting);
  const { kind, also, label, startMs, endMs, feltMs, budgetMs, isRate } = sting;
  const blame = Object.fromEntries(BREAKDOWN_PARTS.map((part) => [part, roundMs(anatomy.blame[part])]));
  return {
    kind,
    also,
    label,
    startMs: roundMs(startMs),
    endMs: roundMs(endMs),
    feltMs: roundMs(feltMs),
    budgetMs,
    isRate,
    phases: phasesOf(anatomy),
    blame: blame as Record<BreakdownPart, number>,
    culprits: anatomy.culprits
      .slice(0, MAX_CULPRITS)
      .map((culprit) => reportCulprit(recording, sting, culprit)),
    forcedLayouts: anatomy.forced.map(({ function: by, count, costMs, read, write = null }) => {
      const place =
        by === undefined ? undefined : reportedFunction(recording, canonicalFunction(recording, by));
      const { name = null, file = null, line = null } = place ?? {};
      return { name, file, line, count, totalMs: roundMs(costMs), read, write };
    }),
    cause: causeOf(recording, sting),
    because: becauseText(becauseOf(recording, anatomy)),
    suggestions: suggestionsFor(recording, anatomy).map((suggestion) => ({
      kind: suggestion.kind,
      advice: becauseText(suggestion.advice),
      evidence: becauseText(suggestion.evidence),
      savesMs: roundMs(suggestion.savesMs),
    })),
  };
}

export function reportOf(recording: Recording): ExplainReport['recording'] {
  const { header, range, events } = recording;
  const { title, target, startedAt, missing } = header;
  const dropped = [...events.drop.rows()].reduce((sum, { count }) => sum + count, 0);
  const { url, engine, device } = target;
  const unit = weightUnit(header);
  const lengthMs = roundMs(range.endMs);
  return {
    title,
    url,
    engine,
    device,
    mode: captureModeOf(header),
    isolated: header.isolated === true,
    unit,
    delayStepMs: delayStepMs(recording),
    startedAt,
    lengthMs,
    missing,
    dropped,
  };
}

/**
 * Stings of a recording, explained, in order of rank.
 * @param range only those that reach into it
 */
export function explainReport(
  recording: Recording,
  thresholds: Thresholds,
  range: TimeRange = { startMs: -Infinity, endMs: Infinity },
): ExplainReport {
  const stings = findStings(recording, thresholds).filter(
    ({ startMs, endMs }) => startMs < range.endMs && endMs > range.startMs,
  );
  return {
    version: REPORT_VERSION,
    recording: reportOf(recording),
    stings: stings.map((sting) => reportSting(recording, sting)),
  };
}
