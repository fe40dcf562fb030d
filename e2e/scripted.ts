import { test } from '@playwright/test';
import {
  DEFAULT_THRESHOLDS,
  anatomyOf,
  displayName,
  fileText,
  findStings,
  missingFor,
  readRecording,
  readSteps,
  recordScript,
  type Anatomy,
  type Recording,
} from '../packages/server/dist/index.js';

export type Engine = 'chromium' | 'firefox' | 'webkit';
export const ENGINES: readonly Engine[] = ['chromium', 'firefox', 'webkit'];

/** Skips a test, and says so, where its browser is not installed. */
export function needs(engine: Engine): void {
  const missing = missingFor(engine);
  test.skip(missing !== undefined, `${engine} is not installed here: apt-get install ${missing ?? ''}`);
}

/** The recording that lines of a file hold. */
export const recordingOf = (lines: readonly string[]): Recording =>
  readRecording([new TextEncoder().encode(fileText(lines))]).recording;

/** Records a page in a browser of this machine while steps are taken in it. */
export async function recordIn(
  engine: Engine,
  url: string,
  mode: 'everyday' | 'fine' | 'exact',
  steps: object[],
  settings: object = {},
): Promise<Recording> {
  const { lines, failure } = await recordScript({
    url: new URL(url),
    steps: readSteps(JSON.stringify({ steps })),
    settings: { mode, ...settings },
    browser: engine,
    repeat: 1,
  });
  if (failure !== undefined) throw failure;
  return recordingOf(lines);
}

/** All that a recording holds but the texts of its files, as JSON, to be searched. */
export function contentOf({ header, sources, functions, threads, events, unknownLines }: Recording): string {
  const rows = Object.values(events).map((table) => [...table.rows()]);
  return JSON.stringify([
    header,
    [...sources.values()],
    [...functions.values()],
    [...threads.values()],
    rows,
    unknownLines,
  ]);
}

/** The worst sting with a label, taken apart. */
export function worst(recording: Recording, label: string): Anatomy | undefined {
  const sting = findStings(recording, DEFAULT_THRESHOLDS).find((candidate) => candidate.label === label);
  return sting && anatomyOf(recording, sting);
}

/** A function as "name file:line". */
export function where(recording: Recording, functionId: number | undefined): string {
  const recorded = functionId === undefined ? undefined : recording.functions.get(functionId);
  return `${displayName(recorded)} ${recorded?.originalFile}:${recorded?.originalLine}`;
}
