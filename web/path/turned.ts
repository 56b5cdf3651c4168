import { inject, type InjectionKey, readonly, type Ref, ref } from 'vue';

/** The strings that are drawn, from the thumb side: their names, and how thick they are, 1 for the thickest. */
export interface DrawnStrings {
  names: string[];
  thickness: number[];
}
/** Those of the open song; given by the shell, none where no song is open. */
export const STRINGS: InjectionKey<Readonly<Ref<DrawnStrings | null>>> = Symbol('strings');
export const useStrings = () => inject(STRINGS, readonly(ref(null)));

/** True where strings are drawn with the bass string at the bottom; given by the shell. */
export const BASS_AT_BOTTOM: InjectionKey<Readonly<Ref<boolean>>> = Symbol('bass at bottom');

/** As the player looks down at them, where nothing else is given. */
export const useBassAtBottom = () => inject(BASS_AT_BOTTOM, readonly(ref(false)));
