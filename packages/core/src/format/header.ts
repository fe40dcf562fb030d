import { array, number, object, string, boolean, ValidationError, type InferType } from 'yup';
import { MAX_QUIET, MAX_ROUNDS, MAX_STEPS } from './limits';
import { partialThresholds } from './thresholds';
import { RefusedRecordingError } from './errors';
import { FORMAT_MAJOR, FORMAT_NAME } from './version';
import { validationWords } from '../words/validation-words';

const headerSchema = object({
  kind: string().oneOf(['header']).required(),
  format: string().oneOf([FORMAT_NAME]).required(),
  version: string()
    .matches(/^\d{1,4}\.\d{1,4}$/, 'version must look like "1.0"')
    .required(),
  id: string().min(1).max(64).required(),
  startedAt: string()
    .required()
    .test('date', 'startedAt must be a date in ISO 8601', (text) => !Number.isNaN(Date.parse(text))),
  title: string().max(200).defined(),
  mode: string().oneOf(['everyday', 'exact']).required(),
  /**
   * Whether scripts told where they stood, so that samples of a millisecond know their line, and calls were counted.
   * `mode` is "everyday" then, as that is what a program knows that was made before there was this.
   */
  fine: boolean().optional(),
  /** Whether the page was isolated (HTML, cross-origin isolation) and shared its memory with the recorder's worker. */
  isolated: boolean().optional(),
  startUp: boolean().default(false),
  clockStepMs: number().min(0).max(1000).required(),
  /** What one reading of the clock costs there, by which it is told what exact calls would cost. */
  clockReadMs: number().min(0).max(1).optional(),
  /** The step in which delays of inputs are told, where it is not that of Event Timing or of the clock. */
  delayStepMs: number().min(0).max(1000).optional(),
  refreshMs: number().moreThan(0).max(1000).required(),
  /** How much slower the device is than the computer the tool runs on; absent where it was not measured. */
  speed: number().moreThan(0).max(1000).optional(),
  /** How many times slower a scripted browser was asked to run; `speed` says what that came to. */
  slowed: number().moreThan(1).max(100).optional(),
  /** Thresholds that hold for this recording in place of the usual ones; see `thresholdsSchema`. */
  thresholds: partialThresholds.optional(),
  /** Ranges in which nothing should change, as a person has marked them. Milliseconds. */
  quiet: array(object({ startMs: number().min(0).required(), endMs: number().min(0).required() }))
    .max(MAX_QUIET)
    .optional(),
  /** What the weights of stacks are, where a format has weights in place of times: "ms", "samples", "bytes", … */
  weightUnit: string().min(1).max(40).optional(),
  /** Whether its times say nothing, because it comes from a format that has none. */
  timeless: boolean().optional(),
  /** The steps it was made by and how often they were taken, where no person used the page. */
  replay: object({
    steps: array(object()).min(1).max(MAX_STEPS).required(),
    times: number().integer().min(1).max(MAX_ROUNDS).required(),
  })
    .default(undefined)
    .optional(),
  target: object({
    title: string().defined(),
    url: string().defined(),
    engine: string().required(),
    device: string().defined(),
  }).required(),
  available: array(string().required()).required(),
  missing: array(string().required()).required(),
});

/** Names of the fields of a header. */
export const HEADER_FIELDS = Object.keys(headerSchema.fields);

/** First line of every recording. Times of the other rows count from `startedAt`. */
export type Header = InferType<typeof headerSchema>;

/** How closely can be recorded, from the lightest on. */
export const CAPTURE_MODES = ['everyday', 'fine', 'exact'] as const;
export type CaptureMode = (typeof CAPTURE_MODES)[number];

/** How closely a recording was made. */
export function captureModeOf({ mode, fine }: Pick<Header, 'mode' | 'fine'>): CaptureMode {
  return fine === true ? 'fine' : (mode as CaptureMode);
}

/** How closely a recording was made, in words: in fine mode also whether samples were taken from outside. */
export function captureModeWords(mode: string, isolated = false): string {
  if (mode !== 'fine') return mode;
  return isolated ? 'fine (isolated)' : 'fine (not isolated)';
}

/** The same of the recording with a header. */
export const modeWordsOf = (header: Pick<Header, 'mode' | 'fine' | 'isolated'>): string =>
  captureModeWords(captureModeOf(header), header.isolated);

/** Whether it is of a page, which can be recorded more closely than it was. */
export const isOfPage = ({ target }: Pick<Header, 'target'>): boolean => /^https?:/i.test(target.url);

/**
 * Checks the first line of a recording.
 * @throws RefusedRecordingError when it is no header, or of a version this program cannot read.
 */
export function readHeader(value: unknown): Header {
  const candidate = value as Partial<Header & { again: Header['replay'] }> | null;
  if (typeof candidate !== 'object' || candidate === null || candidate.format !== FORMAT_NAME) {
    throw new RefusedRecordingError('not-a-recording', 'the first line is no Nettle Patch header');
  }
  const major = Number.parseInt(String(candidate.version), 10);
  if (major > FORMAT_MAJOR) {
    throw new RefusedRecordingError(
      'newer-version',
      `it has format version ${String(candidate.version).slice(0, 12)}, this program reads up to ${FORMAT_MAJOR}.x`,
    );
  }
  try {
    // The name of the field "replay" before there was one.
    const { again, ...header } = candidate;
    return headerSchema.validateSync(again === undefined ? header : { replay: again, ...header }, {
      strict: true,
    });
  } catch (error) {
    if (error instanceof ValidationError) {
      throw new RefusedRecordingError(
        'not-a-recording',
        `the header does not fit: ${validationWords(error)}`,
      );
    }
    throw error;
  }
}
