import { MAX_SMALL_FILE, fileKindOf, type FileKind } from '@nettle-patch/core';

/** What a file is, with its text where it had to be read to find that out; empty where it is too large to be but a recording. */
export async function readKind(file: Blob): Promise<{ readonly kind: FileKind; readonly text: string }> {
  const text = file.size <= MAX_SMALL_FILE ? await file.text() : '';
  return { kind: fileKindOf(text), text };
}
