import { expect, test } from 'vitest';
import { Beside, onceFor } from './once.ts';

test('what is remembered of an object is asked once for each, and is no part of copies, comparisons and documents', () => {
  let asked = 0;
  const doubled = onceFor(({ n }: { readonly n: number }) => {
    asked++;
    return n * 2;
  });
  const three = { n: 3 };
  expect([doubled(three), doubled(three), doubled({ ...three, n: 4 }), doubled({ ...three })]).toEqual([6, 6, 8, 6]);
  expect(asked).toBe(3);
  expect(JSON.stringify(three)).toBe('{"n":3}');
  expect(Object.keys(three)).toEqual(['n']);
});

test('two things are remembered side by side, and the later of one takes the place of the earlier', () => {
  const [one, other] = [new Beside<object, string>(), new Beside<object, string>()];
  const key = {};
  expect(one.get(key)).toBeUndefined();
  one.set(key, 'a');
  expect(other.get(key)).toBeUndefined();
  other.set(key, 'b');
  expect(one.set(key, 'c')).toBe('c');
  expect([one.get(key), other.get(key)]).toEqual(['c', 'b']);
});
