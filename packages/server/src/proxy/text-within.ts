import type { Transform } from 'node:stream';

/** What a stream gives, up to a bound; where there is more, the stream goes on from there. */
export async function textWithin(
  stream: Transform,
  most: number,
): Promise<
  { readonly isWhole: true; readonly text: string } | { readonly isWhole: false; readonly text: Buffer }
> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of stream.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
    pieces.push(piece);
    size += piece.length;
    if (size > most) return { text: Buffer.concat(pieces), isWhole: false };
  }
  return { text: Buffer.concat(pieces).toString('utf8'), isWhole: true };
}
