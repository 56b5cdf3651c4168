import { useMutationObserver } from '@vueuse/core';
import { ref, type Ref } from 'vue';

const NAMES = [
  'ink',
  'ink-soft',
  'paper',
  'paper-sunk',
  'line',
  'spruce',
  'brass',
  'coral',
  'arm',
] as const;

/** The colours of the theme as they are now, for drawings that cannot read them from a style. */
export type Colours = Record<
  'ink' | 'inkSoft' | 'paper' | 'paperSunk' | 'line' | 'spruce' | 'brass' | 'coral' | 'arm',
  string
>;

function read(): Colours {
  const style = getComputedStyle(document.documentElement);
  const camel = (name: string) =>
    name.replace(/-(.)/g, (_, letter: string) => letter.toUpperCase());
  return Object.fromEntries(
    NAMES.map((name) => [camel(name), style.getPropertyValue(`--${name}`).trim()]),
  ) as Colours;
}

/** Follows the day and evening colours. */
export function useColours(): Ref<Colours> {
  const colours = ref(read());
  useMutationObserver(document.documentElement, () => (colours.value = read()), {
    attributes: true,
    attributeFilter: ['class'],
  });
  return colours;
}
