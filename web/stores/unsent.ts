import { messageOf } from '#core/plain';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import {
  type ChangeTime,
  createChangeTimeSchema,
  createTakeSchema,
  type NewChangeTime,
  type NewEntry,
  newEntrySchema,
  type NewTake,
} from '#core/schema';
import { v4 } from 'uuid';
import { z } from 'zod';
import { api, Away, Refused } from '../remote/client';

const waitingSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('take'),
    songId: z.string(),
    /** The song as it was called then. */
    song: z.string().optional(),
    made: createTakeSchema,
  }),
  z.object({ kind: z.literal('entry'), made: newEntrySchema }),
  z.object({ kind: z.literal('timing'), made: createChangeTimeSchema }),
]);
type Waiting = z.infer<typeof waitingSchema>;

/** The server is away, or has no place for it at the moment: it is tried again. */
const later = (error: unknown) =>
  error instanceof Away || (error instanceof Refused && error.status >= 500);

/** Its song was deleted meanwhile. */
const gone = (error: unknown) => error instanceof Refused && error.status === 404;

/** The same as a row without a song: what was practised stays practised. */
function withoutSong(waiting: Waiting): (NewEntry & { id?: string }) | null {
  if (waiting.kind === 'entry') {
    const { songId, ...rest } = waiting.made;
    return songId === undefined ? null : rest;
  }
  if (waiting.kind === 'timing') return null;
  const { judgement, tempo, from, to, source, rung, hands, id, madeAt } = waiting.made;
  const last = judgement.strokes.at(-1);
  return {
    ...(id !== undefined && { id }),
    ...(madeAt !== undefined && { madeAt }),
    kind: 'take',
    ...(waiting.song && { song: waiting.song }),
    ...(rung !== undefined && { rung }),
    ...(hands !== undefined && { hands }),
    tempo,
    from,
    to,
    source,
    seconds: Math.max(0, Math.min(86_400, last?.seconds ?? 0)),
    trouble: judgement.verdict.trouble,
  };
}

/** Where it waits, in the browser's own store. */
export const UNSENT = 'plucky-wrist:unsent';
const RETRY_EVERY = 5000;

/** What was practised while the server was away: kept in this browser, and sent when it is back. */
export const useUnsentStore = defineStore('unsent', () => {
  /** Whether what waits is in this window alone. */
  const onlyHere = ref(false);
  /** The ids of what was sent after it had waited, the last time that anything was. */
  const sent = shallowRef<string[]>([]);
  /** What the server did not take as it was when it was back, with the reason. */
  const trouble = ref<string | null>(null);

  /** What waits where the browser has no room: it lasts as long as the window. */
  let inWindow: unknown[] | null = null;
  function stored(): unknown[] {
    if (inWindow) return inWindow;
    try {
      const list: unknown = JSON.parse(localStorage.getItem(UNSENT) ?? '[]');
      return Array.isArray(list) ? list : [];
    } catch {
      return [];
    }
  }
  function understood(one: unknown): Waiting | undefined {
    return waitingSchema.safeParse(one).data;
  }
  function read(): Waiting[] {
    return stored().flatMap((one) => understood(one) ?? []);
  }
  /** How much waits. */
  const count = ref(read().length);
  /** What this version does not understand stays, for the newer one that kept it. */
  function write(list: Waiting[]): void {
    const all = [...list, ...stored().filter((one) => !understood(one))];
    try {
      if (all.length === 0) localStorage.removeItem(UNSENT);
      else localStorage.setItem(UNSENT, JSON.stringify(all));
      inWindow = null;
    } catch {
      inWindow = all;
    }
    onlyHere.value = inWindow !== null;
    count.value = list.length;
  }

  /**
   * Sends something, or keeps it here until the server is back.
   * @returns what the server made of it; null where it waits
   * @throws Refused where the server does not want it
   */
  async function give<Made>(
    waiting: Waiting & { made: { id: string } },
    send: () => Promise<Made>,
  ): Promise<Made | null> {
    try {
      return await send();
    } catch (error) {
      if (!later(error)) throw error;
      write([...read(), waiting]);
      return null;
    }
  }
  /** Made here and now, whenever it is sent. */
  const stamp = () => ({ id: v4(), madeAt: new Date().toISOString() });

  /** @returns the take as it is kept, or under which id it waits */
  async function giveTake(songId: string, take: NewTake, song?: string) {
    const made = { ...stamp(), ...take };
    const waiting = { kind: 'take' as const, songId, ...(song && { song }), made };
    const kept = await give(waiting, () => api.createTake(songId, made));
    return { kept, id: made.id };
  }
  function giveEntry(entry: NewEntry) {
    const { id, madeAt } = stamp();
    return give({ kind: 'entry', made: { ...entry, id, madeAt } }, () =>
      api.addEntry({ ...entry, id }),
    );
  }
  /** @returns the timing, and whether the server has it already */
  async function giveTiming(timing: NewChangeTime): Promise<{ made: ChangeTime; kept: boolean }> {
    const made = { ...timing, ...stamp() };
    const kept = await give({ kind: 'timing', made }, () => api.createChangeTime(made));
    return { made: kept ?? made, kept: kept !== null };
  }

  async function sendOne(waiting: Waiting): Promise<void> {
    try {
      await sendAsItIs(waiting);
    } catch (error) {
      const row = gone(error) ? withoutSong(waiting) : null;
      if (!row) throw error;
      await api.addEntry(row);
      trouble.value =
        'A song that was practised while the server was away is gone; the practice is in the log without it.';
    }
  }
  function sendAsItIs(waiting: Waiting): Promise<unknown> {
    if (waiting.kind === 'take') return api.createTake(waiting.songId, waiting.made);
    if (waiting.kind === 'entry') return api.addEntry(waiting.made);
    return api.createChangeTime(waiting.made);
  }
  /** The id of what is on its way at this moment. */
  let underWay: string | undefined;
  /** @returns whether it waited, and now is gone; not where it is on its way, or was never here */
  function takeBack(id: string): boolean {
    const waits = read();
    const others = waits.filter(({ made }) => made.id !== id);
    if (id === underWay || others.length === waits.length) return false;
    write(others);
    return true;
  }

  let sending = false;
  /** Sends what waits, in order, until the server is away again. */
  async function send(): Promise<void> {
    if (sending || count.value === 0) return;
    sending = true;
    const done: string[] = [];
    try {
      for (const waiting of read()) {
        const { id } = waiting.made;
        if (!read().some(({ made }) => made.id === id)) continue;
        underWay = id;
        try {
          await sendOne(waiting);
          if (id !== undefined) done.push(id);
        } catch (error) {
          if (later(error)) break;
          const why = messageOf(error);
          trouble.value = `Something that was practised while the server was away was not taken: ${why}`;
        }
        write(read().filter(({ made }) => made.id !== id));
      }
    } finally {
      sending = false;
      underWay = undefined;
    }
    if (done.length > 0) sent.value = done;
  }

  useIntervalFn(() => void send(), RETRY_EVERY, { immediateCallback: true });
  useEventListener(window, 'online', () => void send());
  useEventListener(window, 'beforeunload', (event) => {
    // Asked only where leaving would lose something.
    if (inWindow) event.preventDefault();
  });
  // Another window may have sent it, or kept more.
  useEventListener(window, 'storage', ({ key }) => {
    if (key === UNSENT) count.value = read().length;
  });

  return { count, onlyHere, sent, trouble, giveTake, giveEntry, giveTiming, takeBack, send };
});
