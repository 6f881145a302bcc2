import type { Readable } from 'node:stream';
import { ArkivError } from '@arkiv/core';

/** A picture that comes as the body of a request. Throws `request.invalid` where it is none, or larger than so many bytes. */
export async function bodyBytes(body: Readable, most: number): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of body as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > most)
      throw new ArkivError('request.invalid', { reason: `a picture of more than ${most / 1e6} MB` });
    chunks.push(chunk);
  }
  if (size === 0) throw new ArkivError('request.invalid', { reason: 'there is no picture in it' });
  return Buffer.concat(chunks);
}
