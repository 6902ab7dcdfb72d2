import { expect, it } from 'vitest';
import { compose, layerId } from '../compose/compose.ts';
import { threadsOf } from '../piece/piece.ts';
import { sameElsewhere } from './alike.ts';

const piece = compose({
  frames: {
    home: {
      layers: {
        Buy: { at: [0, 0, 50, 50], lines: ['click → go to pay · push left 300 ms; send bought'] },
        Pay: { at: [0, 60, 50, 50], lines: ['click → go to pay', 'hover → send hello'] },
        Web: { at: [0, 120, 50, 50], lines: ['click → open https://kittiwake.example/'] },
        Link: { at: [0, 180, 50, 50], lines: ['click → open https://kittiwake.example/', 'hover → go to help'] },
        Back: { at: [0, 240, 50, 50], lines: ['click → go to back'] },
        Also: { at: [0, 300, 50, 50], lines: ['click → go to back'] },
      },
    },
    pay: { layers: { Elsewhere: { lines: ['click → go to help'] } } },
    help: { layers: {} },
  },
});
const alike = (layer: string, at = 0) => [...sameElsewhere(piece, threadsOf(piece, layerId('home', layer))[at]!)];

it('finds where a thread leads, puts or opens the same as one of another layer there', () => {
  expect(alike('Buy')).toEqual(['0 0 target']);
  expect(alike('Pay')).toEqual(['0 0 target']);
  expect(alike('Web')).toEqual(['0 0 address']);
});

it('says nothing of what differs, of ways such as back, and of other scenes', () => {
  expect(alike('Pay', 1)).toEqual([]);
  expect(alike('Link', 1)).toEqual([]);
  expect(alike('Back')).toEqual([]);
});
