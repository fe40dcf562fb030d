import { captureModeOf } from '../format/header';
import { RecordingDecoder } from '../format/decoder';
import { uninstrumentedRows, type Uninstrumented } from '../instrumentation/uninstrumented';
import { RecordingBuilder } from '../recording/builder';
import type { Recording } from '../recording/recording';
import { resolveFunctions, sourcesToFetch } from '../sources/resolve';
import type { ScriptText } from '../sources/script-text';

/** Asked for what a recording needs of the scripts it tells of. */
export interface ScriptOrigin {
  /** What could be fetched of a script; a problem where nothing could. */
  fetchScript(url: string): Promise<ScriptText>;
  /** Scripts that were not rewritten for fine or exact mode. */
  uninstrumented(): Promise<readonly Uninstrumented[]>;
}

/** So many scripts are asked for at once. */
const AT_ONCE = 6;

async function scriptsOf(recording: Recording, origin: ScriptOrigin): Promise<Map<string, ScriptText>> {
  const waiting = [...new Set(sourcesToFetch(recording).map(({ url }) => url))];
  const scripts = new Map<string, ScriptText>();
  const fetchInTurn = async () => {
    for (let url = waiting.shift(); url !== undefined; url = waiting.shift())
      scripts.set(url, await origin.fetchScript(url));
  };
  await Promise.all(Array.from({ length: AT_ONCE }, fetchInTurn));
  return scripts;
}

/**
 * The lines by which the functions of a recording are mapped to their original source.
 * @param pieces the recording as it was kept
 */
export async function sourceLines(pieces: Iterable<Uint8Array>, origin: ScriptOrigin): Promise<string[]> {
  const builder = new RecordingBuilder();
  const decoder = new RecordingDecoder(builder);
  for (const piece of pieces) decoder.push(piece);
  const recording = builder.build();
  const scripts = await scriptsOf(recording, origin);
  const isRewritten = captureModeOf(recording.header) !== 'everyday';
  const left = isRewritten ? uninstrumentedRows(await origin.uninstrumented()) : [];
  return [...left, ...resolveFunctions(recording, scripts)].map((row) => JSON.stringify(row));
}
