import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import type { Milliseconds } from '#core/plain';
import type { Ramp } from '#core/time';
import type { ClickMode, Groove } from '#core/arrange';
import { type Levels, USUAL_LEVELS } from '#core/sound';

/** The drum track: none, the one that goes with the pattern, or a chosen one. */
export type DrumChoice = 'none' | 'auto' | Groove;

/** How this player likes to hear things; kept in the browser. */
export const useMixerStore = defineStore('mixer', () => {
  const levels = useLocalStorage<Levels>('plucky-wrist:levels', { ...USUAL_LEVELS });
  const clickMode = useLocalStorage<ClickMode>('plucky-wrist:click-mode', 'all');
  const drums = useLocalStorage<DrumChoice>('plucky-wrist:drums', 'none');
  /** The beats are counted aloud while it plays. */
  const counting = useLocalStorage('plucky-wrist:count-aloud', false);
  /** A share of the tempo. */
  const speed = useLocalStorage('plucky-wrist:speed', 1);
  const climbs = useLocalStorage('plucky-wrist:ramp-on', false);
  const climb = useLocalStorage<Ramp>('plucky-wrist:ramp', {
    every: 2,
    by: 4,
    until: 120,
    back: false,
  });
  const ramp = computed(() => (climbs.value ? climb.value : null));
  /** Milliseconds between the sound that the device is given and what is heard, besides what it tells. */
  const latency = useLocalStorage<Milliseconds>('plucky-wrist:latency', 0);
  /** How long a click takes from the loudspeaker into each microphone, as it was listened to, in milliseconds. */
  const roundTrips = useLocalStorage<Record<string, { delay: Milliseconds; spread: Milliseconds }>>(
    'plucky-wrist:round-trips',
    {},
  );
  const headphones = useLocalStorage('plucky-wrist:headphones', false);
  /** The microphone that listens, by the id that the browser gives it; its own choice where it is empty. */
  const microphone = useLocalStorage('plucky-wrist:microphone', '');
  /** That of the microphone that listens; null where it was never measured. */
  const roundTrip = computed(() => roundTrips.value[microphone.value] ?? null);
  /** The caution on listening levels was read. */
  const cautioned = useLocalStorage('plucky-wrist:listening-caution', false);
  /** The screen flashes on the beats, for those who do not hear the click. */
  const flash = useLocalStorage('plucky-wrist:flash', false);
  return {
    levels,
    clickMode,
    drums,
    counting,
    speed,
    climbs,
    climb,
    ramp,
    latency,
    roundTrips,
    roundTrip,
    headphones,
    microphone,
    cautioned,
    flash,
  };
});
