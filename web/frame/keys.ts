import { useEventListener } from '@vueuse/core';

/** True where keys are meant for the field they are typed into. */
export function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('input, textarea, select') !== null;
}

/** True where the space bar presses the control that has the focus. */
export function isControl(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('button, a, [role=combobox]') !== null;
}

interface PageKeyOptions {
  /** Whether it wants keys that come with Ctrl or Cmd; else it gets none of them. */
  command?: boolean;
  /** Whether it wants keys that are typed into a field. */
  typing?: boolean;
}

/**
 * Listens for keys of the whole page, by one rule: what a part has already taken, what is typed into a
 * field and what goes with Alt, Ctrl or Cmd is left alone.
 * @param does true where it took the key
 */
export function usePageKeys(
  does: (event: KeyboardEvent) => boolean,
  { command = false, typing = false }: PageKeyOptions = {},
): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const commanded = event.ctrlKey || event.metaKey;
    if (event.defaultPrevented || event.altKey || commanded !== command) return;
    if (!typing && isTyping(event.target)) return;
    if (does(event)) event.preventDefault();
  });
}

/**
 * Takes keys as taps before anything else hears them, while something is tapped in.
 * @param active whether it is
 * @param tap true where the key was a tap; a held key taps once
 */
export function useTapKeys(active: () => boolean, tap: (event: KeyboardEvent) => boolean): void {
  let last: string | null = null;
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (!active() || isTyping(event.target)) return;
      if (event.repeat ? event.code !== last : !tap(event)) return;
      last = event.code;
      event.preventDefault();
      event.stopPropagation();
    },
    { capture: true },
  );
}
