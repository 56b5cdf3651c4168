import { inject, type InjectionKey, readonly, type Ref, ref } from 'vue';

/** True where strings are drawn with the bass string at the bottom; given by the shell. */
export const BASS_AT_BOTTOM: InjectionKey<Readonly<Ref<boolean>>> = Symbol('bass at bottom');

/** As the player looks down at them, where nothing else is given. */
export const useBassAtBottom = () => inject(BASS_AT_BOTTOM, readonly(ref(false)));
