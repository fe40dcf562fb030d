import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { CAPTURE_MODES, DEFAULT_SETTINGS, type CaptureMode, type ProxySettings } from '@nettle-patch/core';
import { array, boolean, number, object, string, type InferType } from 'yup';
import { readJson } from '../commands/read-json';
import { MAX_PORT } from '../listen';

/** Name of the file in which a project says how it is recorded. */
export const CONFIG_NAME = 'nettle-patch.config.json';

const port = () => number().integer().min(0).max(MAX_PORT);

const configSchema = object({
  /** For editors: the schema of this file. */
  $schema: string(),
  /** Address of the app's own server. */
  target: string().min(1).max(2000),
  /** How closely to look. */
  mode: string<CaptureMode>().oneOf(CAPTURE_MODES),
  /** In fine mode, the place of a function whose calls are recorded exactly: "file:line". */
  closer: string().max(1000),
  /** Scripts are left alone whose address holds one of these. */
  leaveOut: array(string().min(1).max(200).required()).max(50),
  /** What controls are named by. */
  labels: string<'ids' | 'texts'>().oneOf(['ids', 'texts']),
  /** Whether pages are isolated, so that a hang can be looked into. */
  isolate: boolean(),
  /** File of a budget, for `check`. */
  budget: string().min(1),
  /** File of steps, for `record`. */
  steps: string().min(1),
  port: port(),
  proxyPort: port(),
  /** Whether the tool is opened in the browser. */
  open: boolean(),
})
  .noUnknown(({ unknown }: { unknown?: string }) => `there is no setting "${unknown ?? ''}"`)
  .strict();

/** What a project says of how it is recorded. */
export type Config = Omit<InferType<typeof configSchema>, '$schema'>;

/** How pages are treated: what is said on the command line goes before what the project says. */
export function settingsFrom(
  flags: Pick<Config, 'mode' | 'closer' | 'isolate' | 'leaveOut' | 'labels'>,
  config: Config,
): Pick<ProxySettings, 'mode' | 'isModeChosen' | 'closer' | 'isolate' | 'leaveOut' | 'labels'> {
  const closer = flags.closer ?? config.closer ?? DEFAULT_SETTINGS.closer;
  const mode = flags.mode ?? (flags.closer === undefined ? config.mode : 'fine');
  return {
    mode: mode ?? DEFAULT_SETTINGS.mode,
    isModeChosen: mode !== undefined,
    closer,
    isolate: flags.isolate ?? config.isolate ?? DEFAULT_SETTINGS.isolate,
    leaveOut: flags.leaveOut ?? config.leaveOut ?? DEFAULT_SETTINGS.leaveOut,
    labels: flags.labels ?? config.labels ?? DEFAULT_SETTINGS.labels,
  };
}

/**
 * The settings of the project in a folder, where it has any. Files in them are meant from the folder of the settings.
 * @throws FileError naming the file and the setting that does not fit
 */
export async function readConfig(folder = process.cwd()): Promise<Config> {
  const path = join(folder, CONFIG_NAME);
  if (!existsSync(path)) return {};
  const {
    $schema: _schema,
    budget,
    steps,
    ...config
  } = await readJson(path, (given) => configSchema.validateSync(given, { abortEarly: false }));
  const from = (file: string) => resolve(dirname(path), file);
  return {
    ...config,
    ...(budget === undefined ? {} : { budget: from(budget) }),
    ...(steps === undefined ? {} : { steps: from(steps) }),
  };
}
