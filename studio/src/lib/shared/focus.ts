import type { Action } from 'svelte/action';

/** Takes the focus as soon as it is there, also from a button that was just pressed; what is written in it is selected. */
export const takeFocus: Action<HTMLElement> = (node) => {
  node.focus();
  if (node instanceof HTMLInputElement || node instanceof HTMLTextAreaElement) node.select();
};

/** What is typed in a field is no command of the desk; Enter and Escape end the typing, and Escape closes what the field is in. */
export function fieldKey(event: KeyboardEvent): void {
  const field = event.currentTarget as HTMLElement;
  if (event.key === 'Escape' && field.closest('[role=dialog]')) return;
  event.stopPropagation();
  if (event.key === 'Enter' || event.key === 'Escape') field.blur();
}

let pressed = false;
let pressedOn: EventTarget | null = null;
if (typeof window !== 'undefined') {
  const on = { capture: true };
  window.addEventListener('pointerdown', ({ target }) => ([pressed, pressedOn] = [true, target]), on);
  // The focus comes to what was pressed, or around it; anywhere else it was brought by keys or by a program.
  window.addEventListener(
    'focusin',
    ({ target }) => (pressed &&= target instanceof Node && pressedOn instanceof Node && target.contains(pressedOn)),
    on
  );
  window.addEventListener('keydown', (event: KeyboardEvent) => event.key === 'Tab' && (pressed = false), on);
}

/** Whether the focus came where it is by a pointer: a button that was clicked has it only by the way, and keys are not meant for it. */
export const isByPointer = (): boolean => pressed;

/** Whether keys belong to what is written there. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** Escape, but not where it closes a list that is open in front of the rest. */
export const isLeaving = (event: KeyboardEvent): boolean => event.key === 'Escape' && !document.querySelector('[data-popover]');
