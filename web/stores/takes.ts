import { messageOf } from '#core/plain';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { NewEntry, NewTake, Song, TakeJudgement, TakeOnset, TakeSummary } from '#core/schema';
import type { Habits, Recording } from '#core/take';
import { api, Away } from '../remote/client';
import { earWorker } from '../workers/ear';
import type { Ear } from '../workers/ear.worker';
import { cloneForWorker } from '../workers/cloneForWorker';
import { useHandStore } from './hand';
import { usePlayerStore } from './player';
import { useSongStore } from './song';
import { useUnsentStore } from './unsent';

/** A take that was judged, with what it was a take of. */
export interface JudgedTake extends Omit<NewTake, 'id' | 'madeAt'> {
  /** Where it is kept; null where it is not yet, or could not be. */
  id: string | null;
  /** The id under which it will be kept, while it waits for the server. */
  waits?: string;
  /** What is written to it. */
  answer?: string | undefined;
}

const WAITS =
  'The server is away. This take is kept in this browser, and sent when the server is back.';
const reason = (error: unknown) =>
  error instanceof Away
    ? 'the server is away, and this browser has no room for it.'
    : error instanceof Error
      ? error.message
      : String(error);

type Part = Parameters<Ear['sound']>[2];
type Listen = (song: Song, part: Part) => Promise<TakeJudgement>;
/** Of a take that is one of something else, so much is good, and so much more than before. */
const FITS = 0.7;
const FITS_BETTER = 0.25;

/** Takes of the open song: the one that is looked at, and those that are kept. */
export const useTakesStore = defineStore('takes', () => {
  const songs = useSongStore();
  const player = usePlayerStore();
  const unsent = useUnsentStore();
  const hand = useHandStore();
  const shown = shallowRef<JudgedTake | null>(null);
  /** The take that was judged last, of this visit. */
  const latest = shallowRef<JudgedTake | null>(null);
  /** What of the ladder is played, and with which hands: takes are kept with it. */
  const rung = shallowRef<Pick<NewTake, 'rung' | 'hands'>>({});
  const list = shallowRef<TakeSummary[]>([]);
  const judging = ref(false);
  const trouble = ref<string | null>(null);

  async function reload(): Promise<void> {
    const { id } = songs;
    const kept = id ? await api.listTakes(id).catch(() => null) : null;
    if (kept && songs.id === id) list.value = kept;
  }
  watch(
    () => songs.id,
    async () => {
      shown.value = null;
      latest.value = null;
      list.value = [];
      trouble.value = null;
      await reload();
    },
    { immediate: true },
  );

  /** The bars that are practised, from 1: the loop of the stage bar, or all. */
  const part = computed(() => {
    const end = Math.max(1, player.bars.length);
    const loop = player.looping ? player.loopBars : null;
    return { from: (loop?.first ?? 0) + 1, to: Math.min(end, (loop?.last ?? end - 1) + 1) };
  });

  /** What was played, as the ear is told it. */
  const partOf = (from: number, to: number): Part => ({
    first: from - 1,
    last: to - 1,
    timings: cloneForWorker(hand.timings),
  });
  /** Listens to the last take again, as one of something else. */
  let relisten: Listen | null = null;

  /**
   * What else the last take may be a take of: the one of some songs that it fits clearly better than the one it was
   * judged as.
   */
  async function fitsElsewhere<Id extends string>(
    choices: { id: Id; song: Song }[],
  ): Promise<{ id: Id; judgement: TakeJudgement } | null> {
    const { judgement: now } = shown.value ?? {};
    if (!relisten || !now) return null;
    const shareOf = ({ counted }: TakeJudgement) => (counted ? counted.good / counted.meant : 0);
    const { from, to } = part.value;
    let best: { id: Id; judgement: TakeJudgement } | null = null;
    let most = Math.max(FITS, shareOf(now) + FITS_BETTER);
    for (const { id, song } of choices) {
      const judgement = await relisten(cloneForWorker(song), partOf(from, to));
      if (judgement.verdict.trouble === 'tempo' || shareOf(judgement) <= most) continue;
      most = shareOf(judgement);
      best = { id, judgement };
    }
    return shown.value?.judgement === now ? best : null;
  }
  /** Shows the last take as one of something else. */
  function showAs(of: Pick<NewTake, 'rung'>, judgement: TakeJudgement): void {
    if (shown.value) shown.value = { ...shown.value, ...of, id: null, judgement };
  }

  /** Takes that were given to be judged so far. */
  let asked = 0;
  async function judge(source: NewTake['source'], listen: Listen): Promise<void> {
    const { id } = songs;
    const song = player.activeSong;
    if (!song) return;
    const { from, to } = part.value;
    asked += 1;
    const mine = asked;
    judging.value = true;
    trouble.value = null;
    try {
      const judgement = await listen(cloneForWorker(song), partOf(from, to));
      relisten = listen;
      const take = { tempo: song.tempo, from, to, source, ...rung.value, judgement };
      if (songs.id !== id) return;
      shown.value = { ...take, id: null };
      // An example is looked at and no more: it is no practice of the player's.
      if (source === 'example') return;
      latest.value = shown.value;
      // It has been heard: the next one may begin while this one is being kept.
      judging.value = false;
      await (id ? keep(id, take) : note(take, song));
    } catch (error) {
      trouble.value = messageOf(error);
    } finally {
      if (mine === asked) judging.value = false;
    }
  }

  async function keep(songId: string, take: NewTake): Promise<void> {
    try {
      const { kept, id } = await unsent.giveTake(songId, take, songs.title ?? undefined);
      if (songs.id !== songId) return;
      if (!kept) trouble.value = WAITS;
      else list.value = [kept, ...list.value];
      if (shown.value?.judgement === take.judgement) {
        shown.value = kept ? { ...shown.value, id } : { ...shown.value, waits: id };
      }
    } catch (error) {
      if (songs.id === songId) trouble.value = `This verdict was not kept: ${reason(error)}`;
    }
  }
  // What had to wait is kept now.
  watch(
    () => unsent.sent,
    async (ids) => {
      const waited = shown.value?.waits;
      if (shown.value && waited !== undefined && ids.includes(waited)) {
        const { waits: _, ...take } = shown.value;
        shown.value = { ...take, id: waited };
      }
      if (trouble.value === WAITS) trouble.value = null;
      await reload();
    },
  );

  /** A take of something that is no song of the shelf: a row of the log without the strokes. */
  async function note(take: NewTake, { title, instrument }: Song): Promise<void> {
    const { tempo, from, to, source, judgement } = take;
    const { bars, performance } = player;
    const row: NewEntry = {
      kind: 'take',
      song: title,
      instrument: instrument.name,
      ...rung.value,
      tempo,
      from,
      to,
      whole: from === 1 && to >= bars.length,
      seconds: performance?.seconds ?? 0,
      source,
      trouble: judgement.verdict.trouble,
    };
    try {
      if (!(await unsent.giveEntry(row))) trouble.value = WAITS;
    } catch (error) {
      trouble.value = `This take is not in the log: ${reason(error)}`;
    }
  }

  const ear = earWorker;
  /** The sound of the take that was judged last, made when it is asked for. */
  let sounding: { judgement: TakeJudgement; sound: () => Promise<Blob> } | null = null;
  /** Judges what has a sound, and holds on to that until the next. */
  function judgeHeard(
    source: 'microphone' | 'file',
    listen: Listen,
    sound: () => Promise<Blob>,
  ): Promise<void> {
    return judge(source, async (song, bars) => {
      const judgement = await listen(song, bars);
      sounding = { judgement, sound };
      return judgement;
    });
  }
  /** @param begins the second of the recording at which the first of the bars begins, where that is known */
  const fromSound = (source: 'microphone' | 'file', recording: Recording, begins?: number) =>
    judgeHeard(
      source,
      (song, bars) => ear().sound(song, recording, { ...bars, begins }),
      async () => new Blob([await ear().toWav(recording)], { type: 'audio/wav' }),
    );
  const fromWav = (bytes: Uint8Array<ArrayBuffer>) =>
    judgeHeard(
      'file',
      (song, bars) => ear().wav(song, bytes, bars),
      async () => new Blob([bytes], { type: 'audio/wav' }),
    );
  /** The sound of a take of this visit; null where it has none, or another was judged since. */
  const soundOf = async (judgement: TakeJudgement) =>
    sounding?.judgement === judgement ? sounding.sound() : null;

  /** Notes how many bytes of sound the take that is looked at has now. */
  function noteSound(takeId: string, soundBytes: number | undefined): void {
    list.value = list.value.map((row) => {
      if (row.id !== takeId) return row;
      const { soundBytes: _, ...rest } = row;
      return soundBytes === undefined ? rest : { ...rest, soundBytes };
    });
  }
  async function keepSound(sound: Blob): Promise<void> {
    const takeId = shown.value?.id;
    if (!songs.id || !takeId) return;
    const { bytes } = await api.keepTakeSound(songs.id, takeId, sound);
    noteSound(takeId, bytes);
  }
  async function dropSound(): Promise<void> {
    const takeId = shown.value?.id;
    if (!songs.id || !takeId) return;
    await api.dropTakeSound(songs.id, takeId);
    noteSound(takeId, undefined);
  }
  /** @param begins the second of the onsets at which the first of the bars begins, where that is known */
  const fromOnsets = (
    onsets: TakeOnset[],
    source: 'taps' | 'microphone' | 'midi' = 'taps',
    begins?: number,
  ) => judge(source, (song, bars) => ear().onsets(song, onsets, { ...bars, begins }));
  const fromExample = (habits: Habits) =>
    judge('example', (song, bars) => ear().example(song, habits, bars));

  /** The take that is looked at as a file to send, with its sound where there is one. */
  async function toSend(): Promise<Blob | null> {
    const take = shown.value;
    if (!songs.id || !take?.id) return null;
    return api.takeFile(songs.id, take.id, await soundOf(take.judgement));
  }
  /** Writes an answer to the take that is looked at; an empty one takes it away. */
  async function answer(text: string): Promise<void> {
    const take = shown.value;
    if (!songs.id || !take?.id) return;
    const { answer: written } = await api.answerTake(songs.id, take.id, text);
    const now = <Take extends { answer?: string | undefined }>({ answer: _, ...rest }: Take) => ({
      ...rest,
      ...(written && { answer: written }),
    });
    if (shown.value?.id === take.id) shown.value = now(shown.value);
    list.value = list.value.map((row) => (row.id === take.id ? now(row) : row));
  }

  async function open(takeId: string): Promise<void> {
    if (!songs.id) return;
    const { id, madeAt: _, songId: __, ...take } = await api.readTake(songs.id, takeId);
    shown.value = { ...take, id };
  }

  async function remove(takeId: string): Promise<void> {
    if (!songs.id) return;
    await api.deleteTake(songs.id, takeId);
    list.value = list.value.filter(({ id }) => id !== takeId);
    if (shown.value?.id === takeId) shown.value = null;
  }

  return {
    shown,
    list,
    latest,
    rung,
    part,
    judging,
    trouble,
    fromSound,
    fromWav,
    fromOnsets,
    fromExample,
    fitsElsewhere,
    showAs,
    soundOf,
    keepSound,
    dropSound,
    toSend,
    answer,
    reload,
    open,
    remove,
  };
});
