import { expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { alikeIn, type Alike } from './select-alike.ts';

const piece = compose({
  parts: { Seat: { size: [20, 20], layers: { word: { text: 'free' } } } },
  frames: {
    home: {
      layers: {
        'Seat 1': { type: 'placement', part: 'Seat', at: [0, 0, 20, 20] },
        'Seat 2': { type: 'placement', part: 'Seat', at: [30, 0, 20, 20] },
        buy: { at: [0, 50, 80, 40], style: { fill: '#E59A00', corner: 8 }, lines: ['click → if 1 > 2 → go to paid; otherwise → go to home'] },
        pay: { at: [0, 100, 80, 40], style: { corner: 8, fill: '#e59a00' }, lines: ['hover → go to home', 'click → go to paid'] },
        plain: { at: [0, 150, 80, 40], lines: ['click → go to paid'] },
      },
    },
    paid: { layers: { 'Seat 3': { type: 'placement', part: 'Seat', at: [0, 0, 20, 20] } } },
  },
});

const alike = (name: string, kind: Alike) => alikeIn(piece, `home_${name}`, kind).map((id) => id.slice('home_'.length));

test('layers of one scene are alike by what is asked for', () => {
  expect(alike('Seat-1', 'part')).toEqual(['Seat-1', 'Seat-2']);
  expect(alike('Seat-2', 'name')).toEqual(['Seat-1', 'Seat-2']);
  expect(alike('buy', 'fill')).toEqual(['buy', 'pay']);
  expect(alike('buy', 'target')).toEqual(['buy', 'pay']);
  // However a colour is written.
  expect(alike('buy', 'look')).toEqual(['buy', 'pay']);
  expect(alike('plain', 'look')).toEqual(['plain']);
  expect(alike('plain', 'target')).toEqual(['plain']);
});

test('what has none of it is alike to nothing, and what is gone neither', () => {
  expect(alike('buy', 'part')).toEqual(['buy']);
  expect(alike('plain', 'fill')).toEqual(['plain']);
  expect(alikeIn(piece, 'nobody', 'name')).toEqual([]);
});
