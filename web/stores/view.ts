import { StorageSerializers, useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import type { InstrumentId } from '#core/schema';
import type { CountVocabulary } from '#core/time';
import { USUAL_ARM_LIMIT } from '#core/pattern';

/** How this player likes to see things; kept in the browser. */
export const useViewStore = defineStore('view', () => {
  /** Chord diagrams and necks are drawn for a left-handed player. */
  const leftHanded = useLocalStorage('plucky-wrist:left-handed', false);
  /** Strings are drawn with the bass string at the bottom, as in tablature; else as one looks down. */
  const bassAtBottom = useLocalStorage('plucky-wrist:bass-at-bottom', false);
  const counting = useLocalStorage<CountVocabulary>('plucky-wrist:counting', 'numbers');
  /** Half-swings a second that this player's arm can keep up. */
  const armLimit = useLocalStorage('plucky-wrist:arm-limit', USUAL_ARM_LIMIT);
  /** Bars of a song in one row: 4 to see each, 8 to see the whole. */
  const barsInRow = useLocalStorage('plucky-wrist:bars-in-row', 4);
  /** The instrument that was used last, for what is begun without a song. */
  const lastInstrument = useLocalStorage<InstrumentId>('plucky-wrist:instrument', 'guitar');
  /** Who gets a sheet of a song in the circle: read by the sheet station, null until the player makes a list. */
  const circle = useLocalStorage<unknown>('plucky-wrist:circle', null, {
    serializer: StorageSerializers.object,
  });
  return { leftHanded, bassAtBottom, counting, armLimit, barsInRow, lastInstrument, circle };
});
