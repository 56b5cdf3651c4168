import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';

/** Sends bytes as they are: no tag is made of them, which would hold others up while a long file is read. */
export function sendWhole(response: Response, bytes: Uint8Array): void {
  response.setHeader('Content-Length', bytes.byteLength);
  response.end(bytes);
}

/**
 * Sends text as it is made, no faster than it is taken.
 * @throws what went wrong on the way; the connection is then cut, so that nobody takes a part for the whole
 */
export async function sendText(response: Response, text: AsyncIterable<string>): Promise<void> {
  await pipeline(Readable.from(text), response).catch((error: unknown) => {
    // Whoever asked has gone away.
    if ((error as { code?: string }).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  });
}
