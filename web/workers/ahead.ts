import mixdown from '../audio/mixdown.worker.ts?worker&url';
import render from '../audio/render.worker.ts?worker&url';
import ticker from '../audio/ticker.worker.ts?worker&url';
import along from './along.worker.ts?worker&url';
import ear from './ear.worker.ts?worker&url';
import hand from './hand.worker.ts?worker&url';
import neck from './neck.worker.ts?worker&url';
import readers from './readers.worker.ts?worker&url';
import sheet from './sheet.worker.ts?worker&url';

/** Fetches the scripts of all workers, so that they can be started while the server is away. */
export async function fetchWorkers(): Promise<void> {
  const urls = [ticker, render, ear, hand, neck, along, mixdown, readers, sheet];
  await Promise.all(urls.map((url) => fetch(url, { priority: 'low' })));
}
