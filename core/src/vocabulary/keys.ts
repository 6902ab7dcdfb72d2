/** Keys offered in completion; any other KeyboardEvent.key value can be written as well. */
export const KEY_NAMES = [
  'ArrowRight',
  'ArrowLeft',
  'ArrowUp',
  'ArrowDown',
  'Enter',
  'Escape',
  'Space',
  'Home',
  'End',
  'PageUp',
  'PageDown',
  'Backspace',
  'Tab',
];

const KEY_SIGNS: Record<string, string> = { ArrowRight: '→', ArrowLeft: '←', ArrowUp: '↑', ArrowDown: '↓' };

/** A key as people read it. */
export const keyWords = (key: string): string => KEY_SIGNS[key] ?? key;

/** Keys are compared without case; a space is called Space. */
export const sameKey = (a: string, b: string): boolean => normalKey(a) === normalKey(b);

const normalKey = (key: string) => (key === ' ' ? 'space' : key.toLowerCase());
