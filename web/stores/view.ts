import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';

/** How this player likes to see things; kept in the browser. */
export const useViewStore = defineStore('view', () => {
  /** Chord diagrams and necks are drawn for a left-handed player. */
  const leftHanded = useLocalStorage('plucky-wrist:left-handed', false);
  return { leftHanded };
});
