import { once } from 'node:events';
import type { Response } from 'express';

/** Sends a file as it is made; one that breaks off is cut, so that nobody takes a part for the whole. */
export async function sendPieces(
  response: Response,
  type: string,
  name: string,
  pieces: AsyncIterable<string>,
): Promise<void> {
  let begun = false;
  try {
    for await (const piece of pieces) {
      if (!begun) {
        response.setHeader('Content-Type', type);
        response.setHeader('Cache-Control', 'no-store');
        response.setHeader(
          'Content-Disposition',
          `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`,
        );
        begun = true;
      }
      if (response.destroyed) return;
      if (!response.write(piece)) await Promise.race([once(response, 'drain'), once(response, 'close')]);
    }
    response.end();
  } catch (error) {
    if (!begun) throw error;
    response.destroy(error instanceof Error ? error : new Error(String(error)));
  }
}
