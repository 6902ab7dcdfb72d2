import { expect, test } from 'vitest';
import { dropBeside, shelfEntries, stepOf } from './shelf-list';

const frames = ['home', 'plan', 'seats', 'pay', 'done'];
const bundles: Record<string, string> = { plan: 'trip', seats: 'trip', pay: 'till' };
const bundleOf = (id: string) => bundles[id] ?? null;
const words = (folded: string[], open: string | null = null, of = frames) =>
  shelfEntries(of, bundleOf, new Set(folded), open).map((one) =>
    one.kind === 'frame' ? `${one.place} ${one.key}` : `${one.isFolded ? '+' : '-'} ${one.bundle} ${one.frames.length}`
  );

test('frames stand under the bundle that they are in', () => {
  expect(words([])).toEqual(['0 home', '- trip 2', '1 plan', '2 seats', '- till 1', '3 pay', '- null 1', '4 done']);
  expect(words([], null, ['home', 'done'])).toEqual(['0 home', '1 done']);
});

test('of a folded bundle there is the frame that is open', () => {
  expect(words(['trip', 'till'], 'seats')).toEqual(['0 home', '+ trip 2', '2 seats', '+ till 1', '- null 1', '4 done']);
  expect(words(['trip'], 'home').slice(0, 3)).toEqual(['0 home', '+ trip 2', '- till 1']);
});

test('a bundle of which others stand between has a name for each of its runs', () => {
  const entries = shelfEntries(['plan', 'pay', 'seats'], bundleOf, new Set(['trip']), null);
  expect(entries.map(({ key }) => key)).toEqual(['bundle trip plan', 'bundle till pay', 'pay', 'bundle trip seats']);
});

test('what is dragged goes beside a frame, and into its bundle', () => {
  expect(dropBeside(frames, bundleOf, 'plan', true)).toEqual({ at: 'plan', side: 'before', before: 'plan', bundle: 'trip' });
  expect(dropBeside(frames, bundleOf, 'seats', false)).toEqual({ at: 'seats', side: 'after', before: 'pay', bundle: 'trip' });
  expect(dropBeside(frames, bundleOf, 'done', false)).toEqual({ at: 'done', side: 'after', before: null, bundle: null });
});

test('a key moves frames one place on, and first into the bundle that they come to', () => {
  expect(stepOf(frames, bundleOf, ['seats'], -1)).toEqual({ before: 'plan', bundle: 'trip' });
  expect(stepOf(frames, bundleOf, ['plan'], 1)).toEqual({ before: 'pay', bundle: 'trip' });
  expect(stepOf(frames, bundleOf, ['seats'], 1)).toEqual({ before: 'pay', bundle: 'till' });
  expect(stepOf(frames, bundleOf, ['plan', 'seats'], -1)).toEqual({ before: 'plan', bundle: null });
  expect(stepOf(frames, bundleOf, ['home'], -1)).toBeNull();
  expect(stepOf(frames, bundleOf, ['done'], 1)).toBeNull();
  expect(stepOf(['plan'], bundleOf, ['plan'], 1)).toEqual({ before: null, bundle: null });
});
