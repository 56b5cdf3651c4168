import type { api } from '../../remote/client';

type Listed<Name extends 'listSongs' | 'listPatterns'> = Awaited<ReturnType<(typeof api)[Name]>>;

/** The shelf as it was read last: shown at once on the way back to it, and then read anew. */
export const lastShelf: { songs: Listed<'listSongs'> | null; patterns: Listed<'listPatterns'> } = {
  songs: null,
  patterns: [],
};
