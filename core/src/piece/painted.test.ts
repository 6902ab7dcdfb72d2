import { expect, it } from 'vitest';
import { compose } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import { unwrap } from '../result.ts';
import { coloursOf, recolour, typesOf } from './painted.ts';

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

it('changes a colour everywhere, in looks and states too, and nothing else', () => {
  const lit = compose({
    frames: {
      home: {
        background: '#ff0000',
        states: { A: {}, B: { a: { style: { line: { color: '#ff0000', width: 2 } } } } },
        layers: {
          a: { style: { fill: '#ff0000' }, looks: { hover: { style: { ink: '#ff0000' } } }, text: '#ff0000' },
          b: { style: { fill: '#ff000080' } },
        },
      },
    },
  });
  const changed = unwrap(apply(lit, recolour(lit, '#FF0000', '#0000ff'))).piece;
  expect(JSON.stringify([...changed.layers.values(), ...changed.scenes.values()]).match(/#0000ff/g)).toHaveLength(4);
  expect(JSON.stringify([...changed.layers.values()])).toContain('"text":"#ff0000"');
  expect(JSON.stringify([...changed.layers.values()])).toContain('#ff000080');
});
