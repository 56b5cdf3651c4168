import { nextTick, readonly, ref } from 'vue';

const said = ref('');
/** What a screen reader is told now: the shell has a place for it. */
export const announced = readonly(said);

/**
 * Tells a screen reader what an action did, where nothing that has the focus says it.
 * @example announce('Bars 3 to 4 are copied.')
 */
export function announce(text: string): void {
  // The same words again are told again.
  said.value = said.value === text ? `${text}\u00a0` : text;
}

/**
 * After an action that took away what had the focus: the next thing has it, and not the page.
 * @param find what is next, once the screen is drawn anew
 * @param from what the action was begun with, where it is still there and something else is next
 */
export async function focusNext(
  find: () => HTMLElement | null | undefined,
  from?: string,
): Promise<void> {
  await nextTick();
  // A dialog that closes gives the focus back first.
  await new Promise((resolve) => setTimeout(resolve));
  const { activeElement } = document;
  const lost = !activeElement?.isConnected || activeElement === document.body;
  if (lost || (from !== undefined && activeElement.matches(from))) find()?.focus();
}
