import {
  RecordingBuilder,
  RecordingDecoder,
  anatomyOf,
  becauseOf,
  displayName,
  displayPlace,
  findStings,
  interactionsOf,
  ownerOf,
  seriesOf,
  skylineOf,
  suggestionsFor,
  thresholdsOf,
  type Anatomy,
  type BecausePart,
  type ReadNotice,
  type Recording,
  type Skyline,
  type Sting,
} from '@nettle-patch/core';
import type { Verdict } from '../store/database';
import { keptFrom, type RecordingStore } from '../store/recording-store';
import { readFile } from './archive';
import { isBlind } from './blindness';
import { CallsDesk } from './calls-desk';
import type { ListedSting, NamedFunction, OpenedRecording, OpenedSting, OpenProgress } from './opened';

const SKYLINE_STEPS = 600;
const CARD_STEPS = 80;

interface Opened {
  readonly recording: Recording;
  readonly stings: readonly Sting[];
}

/** Thrown when a recording asked for is not on the shelf. */
export class NotKeptError extends Error {
  override readonly name = 'NotKeptError';
}

/** Reads recordings and answers what the interface asks about the one that is open. */
export class Analysis {
  #opened: Opened | undefined;
  #calls: CallsDesk | undefined;

  constructor(private readonly store: RecordingStore) {}

  /** Opens a recording of the shelf. @throws NotKeptError, RefusedRecordingError */
  async openKept(id: string, onProgress: OpenProgress): Promise<OpenedRecording> {
    const pieces = await this.store.pieces(id);
    if (pieces.length === 0) throw new NotKeptError(`there is no recording ${id} on the shelf`);
    const builder = new RecordingBuilder();
    const decoder = new RecordingDecoder(builder);
    pieces.forEach((piece, index) => {
      decoder.push(piece);
      onProgress(index + 1, pieces.length);
    });
    const notices = decoder.finish();
    return this.#analyse(id, builder.build(), notices);
  }

  /**
   * Reads a file and puts what could be read of it on the shelf.
   * @returns id of the recording
   * @throws RefusedRecordingError, StoreFullError
   */
  async importFile(file: Blob, onProgress: OpenProgress): Promise<string> {
    const builder = new RecordingBuilder();
    const decoder = new RecordingDecoder(builder);
    const pieces: Uint8Array[] = [];
    await readFile(
      file,
      decoder,
      (piece) => pieces.push(piece),
      (read) => onProgress(read, file.size),
    );
    const notices = decoder.finish();
    const recording = builder.build();
    const known = await this.store.get(recording.header.id);
    if (known !== undefined) return known.id;
    await this.store.create({ ...keptFrom(recording.header, 'ended'), damaged: notices.length > 0 });
    await this.store.append(recording.header.id, pieces, { lengthMs: recording.range.endMs });
    return recording.header.id;
  }

  /** The calls of the open recording. */
  get calls(): CallsDesk {
    const opened = this.#opened!;
    return (this.#calls ??= new CallsDesk(opened.recording));
  }

  /** Takes one sting of the open recording apart. */
  sting(index: number): OpenedSting {
    const { recording, stings } = this.#opened!;
    const anatomy = anatomyOf(recording, stings[index]!);
    const because = becauseOf(recording, anatomy);
    const suggestions = suggestionsFor(recording, anatomy);
    const named = [because, ...suggestions.flatMap(({ advice, evidence }) => [advice, evidence])].flat();
    return { anatomy, because, suggestions, functions: namesIn(recording, anatomy, named) };
  }

  async #analyse(id: string, recording: Recording, notices: readonly ReadNotice[]): Promise<OpenedRecording> {
    const stings = findStings(recording, thresholdsOf(recording.header));
    const interactions = interactionsOf(recording);
    this.#opened = { recording, stings };
    this.#calls = undefined;
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
      notices: [...notices, ...dropNotices(recording)],
      stings: stings.map(listed),
      series,
      skyline,
      inputs: interactions.map((interaction) => interaction.startMs),
      unmapped: unmappedSources(recording),
      costShare: costShare(recording),
    };
  }
}

function listed(sting: Sting): ListedSting {
  const { startMs, endMs, feltMs, interaction } = sting;
  if (interaction === undefined) return { ...sting, waitingMs: 0, handlingMs: feltMs, drawingMs: 0 };
  const { processingStartMs, processingEndMs } = interaction;
  return {
    ...sting,
    waitingMs: processingStartMs - startMs,
    handlingMs: processingEndMs - processingStartMs,
    drawingMs: endMs - processingEndMs,
  };
}

function namesIn(
  recording: Recording,
  anatomy: Anatomy,
  parts: readonly BecausePart[],
): Map<number, NamedFunction> {
  const ids = new Set([
    ...anatomy.culprits.map((culprit) => culprit.functionId),
    ...anatomy.blocks.map((block) => block.functionId),
    ...anatomy.stems.map((stem) => stem.functionId),
    ...anatomy.forced.flatMap((forced) => forced.function ?? []),
    ...parts.flatMap((part) => (part.type === 'function' ? part.functionId : [])),
  ]);
  const named = [...ids].map((id) => {
    const recorded = recording.functions.get(id);
    const source = recorded?.source === undefined ? undefined : recording.sources.get(recorded.source);
    const names = {
      name: displayName(recorded),
      place: displayPlace(recorded, source),
      owner: ownerOf(recorded),
    };
    return [id, names] as const;
  });
  return new Map(named);
}

function verdictOf(recording: Recording, stings: readonly Sting[], skyline: Skyline): Verdict {
  const columns = Object.values(skyline.parts);
  const perStep = skyline.steps / CARD_STEPS;
  const heights = Array.from({ length: CARD_STEPS }, (_, card) => {
    let busyMs = 0;
    for (let step = Math.floor(card * perStep); step < (card + 1) * perStep; step++) {
      for (const column of columns) busyMs += column[step] ?? 0;
    }
    return Math.min(1, busyMs / (skyline.stepMs * perStep));
  });
  return {
    stings: stings.length,
    worstMs: stings[0]?.feltMs ?? 0,
    blind: isBlind(recording.header),
    skyline: heights,
  };
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
