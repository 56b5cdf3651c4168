import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { Bar, Section } from '#core/schema';

/** What was copied, to be pasted in this song or another: some bars, or a whole section. */
export const useClipStore = defineStore('clip', () => {
  const bars = shallowRef<Bar[]>([]);
  const section = shallowRef<Section | null>(null);
  return { bars, section };
});
