import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { readRecording } from '../recording/read';
import type { Recording } from '../recording/recording';

/** The decompressed bytes of such a file. */
export function recordedBytes(name: string): Uint8Array {
  return gunzipSync(readFileSync(new URL(`./recordings/${name}.nettle.jsonl.gz`, import.meta.url)));
}

/** A recording of the boarding desk with one fault, or with its mended version; see scripts/record-faults.mjs. */
export function recorded(name: string): Recording {
  const { recording, notices } = readRecording([recordedBytes(name)]);
  if (notices.length > 0) throw new Error(`${name}: ${notices[0]!.detail}`);
  return recording;
}
