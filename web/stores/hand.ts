import { messageOf } from '#core/plain';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ChangeTime, NewChangeTime } from '#core/schema';
import type { SongHand } from '#core/hand';
import { api } from '../remote/client';
import { handWorker } from '../workers/hand';
import { cloneForWorker } from '../workers/cloneForWorker';
import { useMixerStore } from './mixer';
import { usePlayerStore } from './player';
import { useSongStore } from './song';
import { useUnsentStore } from './unsent';

/** So long after the last edit the changes are worked out again. */
const WORK_OUT_AFTER = 120;

/** What the hand has time for in the open song, and the changes that were timed on its strings. */
export const useHandStore = defineStore('hand', () => {
  const songs = useSongStore();
  const mixer = useMixerStore();
  const player = usePlayerStore();
  const unsent = useUnsentStore();
  const timings = shallowRef<ChangeTime[]>([]);
  /** Worked out for the song as it was a moment ago; null before the first time. */
  const found = shallowRef<SongHand | null>(null);
  /** True while what is shown is behind the song. */
  const behind = ref(false);
  const trouble = ref<string | null>(null);

  const strings = computed(() => songs.song?.instrument.strings.join() ?? null);
  watch(
    strings,
    async (now) => {
      timings.value = [];
      if (now === null) return;
      const list = await api.listChangeTimes(now).catch(() => null);
      if (list && strings.value === now) timings.value = list;
    },
    { immediate: true },
  );

  let asked = 0;
  const workOut = useDebounceFn(async () => {
    const { song } = songs;
    const number = (asked += 1);
    if (!song) {
      found.value = null;
      return;
    }
    try {
      const [sent, times] = cloneForWorker([song, timings.value] as const);
      const made = await handWorker().changes(sent, times);
      if (number !== asked) return;
      found.value = made;
      behind.value = false;
    } catch (error) {
      // What was last worked out stays; the next edit tries again.
      if (number === asked) trouble.value = messageOf(error);
    }
  }, WORK_OUT_AFTER);
  watch(
    [() => songs.song, timings],
    () => {
      behind.value = true;
      trouble.value = null;
      void workOut();
    },
    { immediate: true },
  );
  watch(
    () => songs.id,
    () => (found.value = null),
  );

  /** The tempo that is set, of the song or of the rung that is practised, is above what the hand can do: the ceiling, else null. */
  const over = computed(() => {
    const song = player.activeSong;
    const ceiling = found.value?.ceiling ?? null;
    if (!song || ceiling === null) return null;
    return song.tempo * mixer.speed > ceiling + 0.5 ? Math.floor(ceiling) : null;
  });

  /** @returns whether the server has it already; else it waits in this browser */
  async function keep(timing: NewChangeTime): Promise<boolean> {
    const { made, kept } = await unsent.giveTiming(timing);
    if (made.strings.join() === strings.value) timings.value = [made, ...timings.value];
    return kept;
  }

  async function remove(id: string): Promise<void> {
    if (!unsent.takeBack(id)) await api.deleteChangeTime(id);
    timings.value = timings.value.filter((timing) => timing.id !== id);
  }

  return { found, behind, trouble, timings, over, keep, remove };
});
