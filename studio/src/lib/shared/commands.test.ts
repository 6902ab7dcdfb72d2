import { expect, test } from 'vitest';
import { commands, keyLabel, matches } from './commands';

const press = (key: string, held: { ctrl?: boolean; shift?: boolean; alt?: boolean } = {}) =>
  ({ key, ctrlKey: held.ctrl ?? false, metaKey: false, shiftKey: held.shift ?? false, altKey: held.alt ?? false }) as KeyboardEvent;

test.each([
  ['Mod+k', press('k', { ctrl: true }), true],
  ['Mod+k', press('k'), false],
  ['Mod+z', press('z', { ctrl: true, shift: true }), false],
  ['Mod+Shift+z', press('Z', { ctrl: true, shift: true }), true],
  ['?', press('?', { shift: true }), true],
  ['+', press('+', { shift: true }), true],
  ['n', press('n'), true],
  ['n', press('N', { shift: true }), false],
  ['Shift+N', press('N', { shift: true }), true],
  ['Shift+ArrowLeft', press('ArrowLeft', { shift: true }), true],
  ['ArrowLeft', press('ArrowLeft', { shift: true }), false],
  ['Mod+Shift+]', press('}', { ctrl: true, shift: true }), true],
  ['Mod+]', press(']', { ctrl: true }), true],
  ['t', press('t', { alt: true }), false],
])('%s', (keys, event, expected) => {
  expect(matches(event, keys)).toBe(expected);
});

test('no two commands share an id, and none that are open together share a key', () => {
  const ids = commands.map((command) => command.id);
  expect(new Set(ids).size).toBe(ids.length);
  const keys = commands.flatMap((command) => command.keys ?? []);
  expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([]);
});

test('keys are written for people', () => {
  expect(keyLabel('Mod+Shift+z')).toBe('Ctrl+Shift+Z');
  expect(keyLabel('Shift+ArrowUp')).toBe('Shift+↑');
});
