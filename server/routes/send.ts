import type { Response } from 'express';

/** Sends bytes as they are: no tag is made of them, which would hold others up while a long file is read. */
export function sendWhole(response: Response, bytes: Uint8Array): void {
  response.setHeader('Content-Length', bytes.byteLength);
  response.end(bytes);
}
