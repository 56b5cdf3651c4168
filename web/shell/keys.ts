/** True where keys are meant for the field they are typed into. */
export function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('input, textarea, select') !== null;
}

/** True where the space bar presses the control that has the focus. */
export function isControl(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('button, a, [role=combobox]') !== null;
}
