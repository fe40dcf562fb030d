import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { readRecording } from '../recording/read';
import type { Recording } from '../recording/recording';

/** A recording of the boarding desk with one fault, or with its mended version; see scripts/record-faults.mjs. */
export function recorded(name: string): Recording {
  const file = new URL(`./recordings/${name}.nettle.jsonl.gz`, import.meta.url);
  const { recording, notices } = readRecording([gunzipSync(readFileSync(file))]);
  if (notices.length > 0) throw new Error(`${name}: ${notices[0]!.detail}`);
  return recording;
}
