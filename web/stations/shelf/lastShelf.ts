import { api } from '../../remote/client';

type Songs = Awaited<ReturnType<typeof api.listSongs>>;
type Patterns = Awaited<ReturnType<typeof api.listPatterns>>;

/** Milliseconds for which the page waits for its songs before it shows itself without them. */
const LONGEST_WAIT = 300;

/** The shelf as it was read last: shown at once on the way back to it, and then read anew. */
export const lastShelf: { songs: Songs | null; patterns: Patterns } = { songs: null, patterns: [] };

let begun: Promise<Songs> | null = null;

/**
 * Asks for the songs before the page is made, so that its first picture has them: to be drawn twice takes
 * longer than to wait for what is already on its way.
 */
export async function beginShelf(): Promise<void> {
  begun = api.listSongs();
  const songs = begun.then((list) => (lastShelf.songs = list));
  await Promise.race([
    songs.catch(() => null),
    new Promise((resolve) => setTimeout(resolve, LONGEST_WAIT)),
  ]);
}

/** The songs of the shelf: those that were asked for with the page, or read anew. */
export async function readShelf(): Promise<Songs> {
  const asked = begun ?? api.listSongs();
  begun = null;
  lastShelf.songs = await asked;
  return lastShelf.songs;
}
