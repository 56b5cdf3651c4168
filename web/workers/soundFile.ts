import type { Recording } from '#core/take';
import { decode } from '../audio/capture';
import { earWorker } from './ear';

/**
 * The sound of a file: WAV by our own reader, which says what is wrong with it; others as the browser decodes them.
 * @throws Error with one sentence
 */
export async function readSoundFile(file: File): Promise<Recording> {
  const bytes = await file.arrayBuffer();
  const isWav = new TextDecoder().decode(bytes.slice(0, 4)) === 'RIFF';
  return isWav ? earWorker().readWav(new Uint8Array(bytes)) : decode(bytes);
}
