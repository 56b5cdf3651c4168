import { computed } from 'vue';
import { defineStore } from 'pinia';
import { modulo } from '#core/plain';
import { fretChord, type FrettedChord, guessKey, transposeChord, usesFlats } from '#core/neck';
import { songChords } from '#core/song';
import { useSongStore } from './song';

/**
 * The chords of the open song under the hand. Each keeps its identity while nothing that decides how
 * it is held has changed, so that its diagram is not drawn again.
 */
export const useFrettedStore = defineStore('held', () => {
  const songs = useSongStore();
  let before = new Map<string, { key: string; held: FrettedChord | null }>();

  // Chords are gathered anew where one of these is another, and not with every stroke that is placed.
  const sections = computed(() => songs.song?.sections);
  const order = computed(() => songs.song?.order);
  const songKey = computed(() => songs.song?.key);
  const chords = computed(() =>
    sections.value
      ? songChords({
          sections: sections.value,
          ...(order.value && { order: order.value }),
          ...(songKey.value && { key: songKey.value }),
        })
      : [],
  );
  const held = computed(() => {
    const { song } = songs;
    const now = new Map<string, { key: string; held: FrettedChord | null }>();
    for (const symbol of song ? chords.value : []) {
      const key = JSON.stringify([
        song!.instrument,
        song!.capo,
        song!.bassSchool,
        song!.chosenShapes.find((choice) => choice.symbol === symbol)?.shape,
        song!.ownShapes.filter((own) => own.symbol === symbol),
      ]);
      const known = before.get(symbol);
      now.set(symbol, known?.key === key ? known : { key, held: fretChord(symbol, song!) });
    }
    before = now;
    return now;
  });

  const shift = computed(() => (songs.song ? songs.song.capo + songs.song.instrument.offset : 0));
  const flats = computed(() => {
    const key = songs.song?.key ?? guessKey(chords.value);
    return usesFlats({ ...key, tonic: modulo(key.tonic + shift.value, 12) });
  });
  /** What a chord sounds as behind the capo, or on a neck tuned to another pitch; null where it is itself. */
  const soundsAs = (symbol: string) =>
    shift.value === 0 ? null : transposeChord(symbol, shift.value, flats.value);

  const of = (symbol: string) => held.value.get(symbol)?.held ?? null;
  return { chords, held, of, soundsAs };
});
