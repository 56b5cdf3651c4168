import { inject, type InjectionKey, readonly, type Ref, ref } from 'vue';

/** True where diagrams and necks are drawn for a left-handed player; given by the shell. */
export const LEFT_HANDED: InjectionKey<Readonly<Ref<boolean>>> = Symbol('left-handed');

export const useLeftHanded = () => inject(LEFT_HANDED, readonly(ref(false)));
