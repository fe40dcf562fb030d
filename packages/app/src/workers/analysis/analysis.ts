import {
  BadStepsError,
  anatomyOf,
  becauseOf,
  codeOfLine,
  excerptOf,
  stingMarkdown,
  stingPage,
  stingPicture,
  stingProofOf,
  type Excerpt,
  rangeBreakdown,
  causeInRange,
  findStings,
  interactionsOf,
  keptSteps,
  readRecording,
  seriesOf,
  skylineOf,
  suggestionsFor,
  thresholdsOf,
  withOwners,
  type Anatomy,
  type BecausePart,
  type CauseLink,
  type KeptSteps,
  type ReadNotice,
  type ReadResult,
  type Recording,
  type Sting,
  phaseRangesOf,
} from '@nettle-patch/core';
import { USUAL_PREFERENCES, type Preferences } from '../../store/preferences';
import type { RecordingStore } from '../../store/recording-store';
import { importFile } from '../import/import-file';
import { CallQueries } from './queries/call-queries';
import { SeveralQueries, type SeveralRecordings } from './queries/several-queries';
import { CompareQueries, type ComparedRecordings } from './queries/compare-queries';
import { SearchQueries } from './queries/search-queries';
import { SourceQueries } from './queries/source-queries';
import { TimelineQueries } from './queries/timeline-queries';
import { verdictOf } from './verdict';
import { namedFunction } from './named-function';
import type { ReportForm } from './report-form';
import {
  MAX_HOT_LINES,
  type ListedSting,
  type NamedFunction,
  type OpenedRecording,
  type OpenedSting,
  type OpenProgress,
} from './analysis-results';

const SKYLINE_STEPS = 600;
const TELL_EVERY_MS = 120;

interface Opened {
  readonly recording: Recording;
  readonly stings: readonly Sting[];
  readonly calls: CallQueries;
  readonly timeline: TimelineQueries;
  readonly source: SourceQueries;
  readonly search: SearchQueries;
}

/** What a person has set that changes what analysis finds. */
export type AnalysisSettings = Pick<Preferences, 'thresholds' | 'ownPaths' | 'libraryPaths'>;

/** Thrown when a recording asked for is not on the shelf. */
export class NotKeptError extends Error {
  override readonly name = 'NotKeptError';
}

/** Reads recordings and answers what the interface asks about the one that is open. */
export class Analysis {
  #opened: Opened | undefined;
  #compared: CompareQueries | undefined;
  #several: SeveralQueries | undefined;
  /** What was read from a file last and is not open yet, so that it is read once only. */
  #justRead: (ReadResult & { readonly id: string }) | undefined;

  constructor(private readonly store: RecordingStore) {}

  /** Opens a recording of the shelf. @throws NotKeptError, RefusedRecordingError */
  async openStored(
    id: string,
    onProgress: OpenProgress,
    settings: AnalysisSettings = USUAL_PREFERENCES,
  ): Promise<OpenedRecording> {
    const { recording, notices } = await this.#read(id, onProgress, settings);
    return this.#analyse(id, recording, notices);
  }

  /**
   * Holds two recordings of the shelf against each other.
   * @throws NotKeptError, RefusedRecordingError
   */
  async compare(
    beforeId: string,
    afterId: string,
    onProgress: OpenProgress,
    settings: AnalysisSettings,
  ): Promise<ComparedRecordings> {
    this.#compared = undefined;
    const [before, after] = await this.#readAll([beforeId, afterId], onProgress, settings);
    this.#compared = new CompareQueries(before!, after!, thresholdsOf(after!.header));
    return this.#compared.overview();
  }

  /**
   * Holds several recordings of the shelf against each other.
   * @throws NotKeptError, RefusedRecordingError
   */
  async compareSeveral(
    ids: readonly string[],
    onProgress: OpenProgress,
    settings: AnalysisSettings,
  ): Promise<SeveralRecordings> {
    this.#several = undefined;
    const recordings = await this.#readAll(ids, onProgress, settings);
    this.#several = new SeveralQueries(recordings, thresholdsOf(recordings[0]!.header));
    return this.#several.overview();
  }

  /** Several that are held against each other. @throws Error when none are */
  get several(): SeveralQueries {
    if (this.#several === undefined) throw new Error('no recordings are being compared');
    return this.#several;
  }

  /** What is held against each other. @throws Error when nothing is */
  get compared(): CompareQueries {
    if (this.#compared === undefined) throw new Error('no recordings are being compared');
    return this.#compared;
  }

  /** Reads recordings one after the other, each taken for an equal part of the whole. */
  async #readAll(
    ids: readonly string[],
    onProgress: OpenProgress,
    settings: AnalysisSettings,
  ): Promise<Recording[]> {
    const recordings: Recording[] = [];
    for (const [at, id] of ids.entries()) {
      const progress: OpenProgress = (done, total) => onProgress(done + at * total, ids.length * total);
      recordings.push((await this.#read(id, progress, settings)).recording);
    }
    return recordings;
  }

  async #read(
    id: string,
    onProgress: OpenProgress,
    { thresholds, ownPaths, libraryPaths }: AnalysisSettings,
  ): Promise<ReadResult> {
    const { recording, notices } = (await this.#takeJustRead(id)) ?? (await this.#readKept(id, onProgress));
    const owned = withOwners(recording, { own: ownPaths, library: libraryPaths });
    return { recording: withThresholds(owned, thresholds), notices };
  }

  async #takeJustRead(id: string): Promise<ReadResult | undefined> {
    const read = this.#justRead;
    this.#justRead = undefined;
    if (read?.id !== id || (await this.store.get(id)) === undefined) return undefined;
    return read;
  }

  async #readKept(id: string, onProgress: OpenProgress): Promise<ReadResult> {
    const pieces = await this.store.pieces(id);
    if (pieces.length === 0) throw new NotKeptError(`there is no recording ${id} on the shelf`);
    const tell = sparingly(onProgress);
    return readRecording(pieces, (read) => tell(read, pieces.length));
  }

  /**
   * Reads a file, a recording or another open format, and puts what could be read of it on the shelf.
   * @returns id of the recording
   * @throws RefusedRecordingError, StoreFullError
   */
  async importFile(file: Blob, onProgress: OpenProgress): Promise<string> {
    const tell = sparingly(onProgress);
    const { id, read } = await importFile(this.store, file, (bytes) => tell(bytes, file.size));
    this.#justRead = read === undefined ? undefined : { id, ...read };
    return id;
  }

  /** What is open. @throws Error when nothing is */
  get opened(): Opened {
    if (this.#opened === undefined) throw new Error('no recording is open');
    return this.#opened;
  }

  /** Takes one sting of the open recording apart. */
  sting(index: number): OpenedSting {
    const { recording, stings } = this.opened;
    const anatomy = anatomyOf(recording, stings[index]!);
    const because = becauseOf(recording, anatomy);
    const suggestions = suggestionsFor(recording, anatomy);
    const named = [because, ...suggestions.flatMap(({ advice, evidence }) => [advice, evidence])].flat();
    const cause = causeOf(recording, anatomy.sting);
    return {
      anatomy,
      because,
      suggestions,
      cause,
      functions: namesIn(recording, anatomy, named, cause),
      codeOfLines: codeOfHotLines(recording, anatomy),
      excerpts: excerptsOf(recording, anatomy),
    };
  }

  /** One sting of the open recording, to be passed on. */
  stingReport(index: number, form: ReportForm): string {
    const { recording, stings } = this.opened;
    const proof = stingProofOf(recording, index, thresholdsOf(recording.header), stings);
    if (form === 'page') return stingPage(proof);
    return form === 'picture' ? stingPicture(proof) : stingMarkdown(proof);
  }

  async #analyse(id: string, recording: Recording, notices: readonly ReadNotice[]): Promise<OpenedRecording> {
    const held = thresholdsOf(recording.header);
    const stings = findStings(recording, held);
    const interactions = interactionsOf(recording);
    this.#opened = {
      recording,
      stings,
      calls: new CallQueries(recording),
      timeline: new TimelineQueries(recording, stings),
      source: new SourceQueries(recording),
      search: new SearchQueries(recording, stings),
    };
    const series = seriesOf(stings, interactions).map(({ label, stings: members, attempts }) => ({
      label,
      stings: members.map((member) => stings.indexOf(member)),
      ...(attempts === undefined ? {} : { attempts }),
    }));
    const skyline = skylineOf(recording, SKYLINE_STEPS);
    await this.store.setVerdict(id, verdictOf(recording, stings, skyline), recording.range.endMs);
    return {
      id,
      header: recording.header,
      range: recording.range,
      thresholds: held,
      notices: [...notices, ...dropNotices(recording)],
      stings: stings.map((sting) => listed(recording, sting)),
      series,
      skyline,
      inputs: interactions.map((interaction) => interaction.startMs),
      threads: [...recording.threads.values()].map(({ id: thread, name }) => ({ id: thread, name })),
      pauses: [...recording.events.pause.rows()].map(({ startMs, durationMs }) => ({
        startMs,
        endMs: startMs + durationMs,
      })),
      unmapped: unmappedSources(recording),
      costShare: costShare(recording),
      ...stepsIn(recording),
    };
  }
}

/** Tells of progress a few times a second, and of the end. */
function sparingly(onProgress: OpenProgress): OpenProgress {
  let toldAtMs = -Infinity;
  return (done, total) => {
    const nowMs = performance.now();
    if (done < total && nowMs - toldAtMs < TELL_EVERY_MS) return;
    toldAtMs = nowMs;
    onProgress(done, total);
  };
}

/** A recording with the thresholds a person has set stored in it. */
function withThresholds(recording: Recording, thresholds: object): Recording {
  if (Object.values(thresholds).every((value) => value === undefined)) return recording;
  const { header } = recording;
  return { ...recording, header: { ...header, thresholds: { ...header.thresholds, ...thresholds } } };
}

/** What can be done again; steps that are none are passed over. */
function stepsIn(recording: Recording): { replay?: KeptSteps } {
  try {
    const replay = keptSteps(recording);
    return replay === undefined ? {} : { replay };
  } catch (error) {
    if (error instanceof BadStepsError) return {};
    throw error;
  }
}

/** How the longest entry into script during a sting came to run, where it was asked for before. */
function causeOf(recording: Recording, sting: Sting): readonly CauseLink[] {
  const chain = causeInRange(recording, sting.thread, sting);
  return chain.some(({ type }) => type === 'schedule') ? chain : [];
}

/** Without an input all of it is handling: what is counted in milliseconds of a second has no other phases. */
function partsOf(recording: Recording, sting: Sting): ListedSting['parts'] {
  if (sting.interaction === undefined) return [{ name: 'handling', ms: sting.feltMs }];
  return phaseRangesOf(recording, sting).map(({ name, startMs, endMs }) => ({ name, ms: endMs - startMs }));
}

function listed(recording: Recording, sting: Sting): ListedSting {
  const { startMs, endMs } = sting;
  const { idleMs } = rangeBreakdown(recording, sting.thread, { startMs, endMs });
  return { ...sting, parts: partsOf(recording, sting), idleMs };
}

function namesIn(
  recording: Recording,
  anatomy: Anatomy,
  parts: readonly BecausePart[],
  cause: readonly CauseLink[],
): Map<number, NamedFunction> {
  const ids = new Set([
    ...anatomy.culprits.map((culprit) => culprit.functionId),
    ...anatomy.blocks.map((block) => block.functionId),
    ...anatomy.stems.map((stem) => stem.functionId),
    ...anatomy.inTheWay.flatMap((blocker) => blocker.functionId ?? []),
    ...anatomy.forced.flatMap((forced) => forced.function ?? []),
    ...cause.flatMap((link) => (link.type === 'input' ? [] : (link.functionId ?? []))),
    ...parts.flatMap((part) => (part.type === 'function' ? part.functionId : [])),
  ]);
  return new Map([...ids].map((id) => [id, namedFunction(recording, id)]));
}

function dropNotices(recording: Recording): ReadNotice[] {
  return [...recording.events.drop.rows()].map(({ count, reason }) => ({
    code: 'dropped',
    detail: count > 0 ? `${count} rows were lost: ${reason}` : reason,
  }));
}

function unmappedSources(recording: Recording): { url: string; problem: string }[] {
  return [...recording.sources.values()].flatMap(({ url, problem }) =>
    problem === undefined ? [] : [{ url, problem }],
  );
}

function costShare(recording: Recording): number | undefined {
  let [busyMs, spanMs] = [0, 0];
  for (const cost of recording.events.cost.rows()) {
    busyMs += cost.busyMs;
    spanMs += cost.durationMs;
  }
  return spanMs === 0 ? undefined : busyMs / spanMs;
}

const MAX_EXCERPTS = 5;

function excerptsOf(recording: Recording, { culprits }: Anatomy): ReadonlyMap<number, Excerpt> {
  const excerpts = culprits.slice(0, MAX_EXCERPTS).flatMap((culprit) => excerptOf(recording, culprit) ?? []);
  return new Map(excerpts.map((excerpt) => [excerpt.functionId, excerpt]));
}

function codeOfHotLines(recording: Recording, { culprits }: Anatomy): ReadonlyMap<string, string> {
  const codes = new Map<string, string>();
  for (const { functionId, hotLines } of culprits) {
    for (const { line } of hotLines.slice(0, MAX_HOT_LINES)) {
      const code = codeOfLine(recording, functionId, line);
      if (code !== undefined) codes.set(`${functionId} ${line}`, code);
    }
  }
  return codes;
}
