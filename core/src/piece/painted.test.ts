import { expect, it } from 'vitest';
import { compose } from '../compose/compose.ts';
import { coloursOf, typesOf } from './painted.ts';

const piece = compose({
  frames: {
    home: {
      layers: {
        a: { style: { fill: '#FF0000', ink: '#00ff00' }, text: 'a', letters: { size: 20 } },
        b: { style: { fill: '#ff0000', line: { color: '#0000ff', width: 1 } }, text: 'b', letters: { size: 20 } },
        c: { style: { fill: '#ffffff00' }, text: 'c' },
        d: {},
      },
    },
  },
});

it('finds the colours and the type of a piece, the most used first', () => {
  expect(coloursOf(piece)).toEqual(['#ff0000', '#0000ff', '#00ff00']);
  expect(coloursOf(piece, 1)).toEqual(['#ff0000']);
  expect(typesOf(piece).map(({ from, size }) => [from, size])).toEqual([
    ['a', 20],
    ['c', 16],
  ]);
});
