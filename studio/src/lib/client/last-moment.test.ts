import { expect, test } from 'vitest';
import { forgetLeft, leaveAtLast, leftAtLast } from './last-moment';

/** A storage with room for so many characters. */
function storageFor(room: number): Storage {
  const values = new Map<string, string>();
  const storage = {
    getItem: (key: string) => values.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > room) throw new DOMException('full', 'QuotaExceededError');
      values.set(key, value);
      Object.defineProperty(storage, key, { value, enumerable: true, configurable: true });
    },
    removeItem: (key: string) => {
      values.delete(key);
      delete (storage as Record<string, unknown>)[key];
    },
  };
  for (const name of Object.keys(storage)) Object.defineProperty(storage, name, { enumerable: false });
  return storage as unknown as Storage;
}

const blocked = (): Storage => {
  throw new DOMException('blocked', 'SecurityError');
};

test('what is left is found by the beginning of its key until it is forgotten', () => {
  const storage = storageFor(1000);
  leaveAtLast(() => storage, 'left/a/1', { batches: [1] });
  leaveAtLast(() => storage, 'left/ab/1', { batches: [2] });
  expect([...leftAtLast(() => storage, 'left/a/')]).toEqual([['left/a/1', { batches: [1] }]]);
  forgetLeft(() => storage, 'left/a/1');
  expect([...leftAtLast(() => storage, 'left/')]).toEqual([['left/ab/1', { batches: [2] }]]);
});

test('a storage that is full, blocked or holds something else is as one that holds nothing', () => {
  const full = storageFor(3);
  leaveAtLast(() => full, 'left/a/1', { batches: [1] });
  expect(leftAtLast(() => full, 'left/').size).toBe(0);
  full.setItem('left/b', '{"b');
  expect(leftAtLast(() => full, 'left/').size).toBe(0);
  leaveAtLast(blocked, 'left/a/1', 1);
  forgetLeft(blocked, 'left/a/1');
  expect(leftAtLast(blocked, 'left/').size).toBe(0);
});
