import { expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec } from '@zany/core/testing';
import { cardOf } from './handlers';

const switches = (count: number): ComposeSpec => ({
  variables: Object.fromEntries(Array.from({ length: count }, (_, i) => [`v${i}`, { type: 'yes/no', initial: false }])),
  frames: {
    home: {
      layers: {
        ...Object.fromEntries(
          Array.from({ length: count }, (_, i): [string, PlacedSpec] => [
            `l${i}`,
            {
              at: [(i % 8) * 46, Math.floor(i / 8) * 50, 44, 44],
              lines: [`click → if v${i} = false → set v${i} to true; otherwise → set v${i} to false`],
            },
          ])
        ),
        // All of them are asked for at once, so they cannot be walked by themselves.
        on: { at: [0, 300, 90, 44], lines: [`click → if ${Array.from({ length: count }, (_, i) => `v${i} = true`).join(' and ')} → go to there`] },
      },
    },
    there: { layers: { home: { at: [0, 0, 90, 44], lines: ['click → go to home'] } } },
  },
});

test('the card of a piece with more states than are walked at first says that all of it was walked, where that is so', () => {
  expect(cardOf(compose(switches(13)))).toMatchObject({ complete: true, frames: 2 });
});

test('the card of one that has more than are walked at all says so, and what was found in those that come first', () => {
  const card = cardOf(compose(switches(16)));
  expect(card).toMatchObject({ complete: false, frames: 2 });
  expect(card.looseEnds).toBeGreaterThan(0);
});
