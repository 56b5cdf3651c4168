import { computed, onScopeDispose, shallowRef } from 'vue';
import type { Heard } from '../stores/player';

/** What the one Play of the screen does where it is not the song that it plays. */
export interface StagePlay {
  /** What a press does, in words: "Record a take". */
  label: string;
  /** It sounds, so that a press stops it. */
  running: boolean;
  /** It is worked on: a press would do nothing. */
  busy?: boolean;
  disabled?: boolean;
  /** Where that is in the song; null before it begins. */
  heard: Heard | null;
  /** It has a tempo, a loop and a click of its own: those of the song are put away. */
  ownControls?: boolean;
  toggle: () => void;
}

/** Stations that have taken Play, the last of them in front. */
const takers = shallowRef<readonly (() => StagePlay | null)[]>([]);

/**
 * Takes the Play of the stage bar, and the space bar with it, for as long as the component is there: on Practice it is
 * the take, beside a recording the recording.
 * @param what null while it is the song's
 */
export function useStagePlay(what: () => StagePlay | null): void {
  takers.value = [...takers.value, what];
  onScopeDispose(() => (takers.value = takers.value.filter((taker) => taker !== what)));
}

/** What Play is for now; null for the song. */
export const stagePlay = computed(() =>
  takers.value.reduceRight<StagePlay | null>((found, taker) => found ?? taker(), null),
);
