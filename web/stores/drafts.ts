import { type Song, songSchema } from '#core/schema';
import { z } from 'zod';

/**
 * What the server does not have yet, kept in the browser: the song as edited and the revision it
 * started from.
 */
const draftSchema = z.object({ revision: z.int(), document: songSchema });
export type Draft = z.infer<typeof draftSchema>;

/** What the names of drafts begin with, in the browser's own store. */
export const DRAFTS = 'plucky-wrist:draft:';
const key = (id: string) => `${DRAFTS}${id}`;

/** Drafts for which the browser has no room: they last as long as the window. */
const inWindow = new Map<string, Draft>();

/** Keeps the edits of a song. @returns whether they outlive the window: not where the browser has no room */
export function keepDraft(id: string, revision: number, document: Song): boolean {
  try {
    localStorage.setItem(key(id), JSON.stringify({ revision, document }));
    inWindow.delete(id);
    return true;
  } catch {
    inWindow.set(id, { revision, document });
    return false;
  }
}

export function dropDraft(id: string): void {
  localStorage.removeItem(key(id));
  inWindow.delete(id);
}

/** Whether any edit would be lost with the window. */
export const onlyInWindow = () => inWindow.size > 0;

/** Whether any edit is, or was a moment ago, not with the server yet. */
export const hasDrafts = () =>
  onlyInWindow() || Object.keys(localStorage).some((name) => name.startsWith(DRAFTS));

/** The draft of a song; null where there is none that can be read. */
export function findDraft(id: string): Draft | null {
  const held = inWindow.get(id);
  if (held) return held;
  const text = localStorage.getItem(key(id));
  if (text === null) return null;
  try {
    return draftSchema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}
