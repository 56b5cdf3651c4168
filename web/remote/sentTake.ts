import { api } from './client';

/**
 * Opens a take that was sent.
 * @returns the way to it: its song, at the take
 * @throws Refused with what is wrong with the file
 */
export async function openSentTake(file: File) {
  const { songId, takeId } = await api.openSentTake(file);
  return {
    name: 'practice',
    params: { id: songId },
    query: { tool: 'takes', take: takeId },
  };
}
