import { describe, expect, test } from 'vitest';
import { compile } from '../../program/compile.ts';
import { unwrap } from '../../result.ts';
import { compose } from '../../testing/index.ts';
import { apply } from '../apply.ts';
import { fillFromRows } from './rows.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

const piece = compose({
  parts: {
    Boat: {
      size: [300, 60],
      layers: {
        Time: { at: [0, 0, 80, 60], type: 'text', text: '00:00' },
        To: { at: [90, 0, 200, 60], type: 'text', text: 'Somewhere' },
        ground: { at: [0, 0, 300, 60] },
      },
    },
    Other: { size: [10, 10], layers: {} },
  },
  frames: {
    Boats: {
      layers: {
        second: { part: 'Boat', at: [20, 200, 300, 60] },
        first: { part: 'Boat', at: [20, 100, 300, 60] },
        alone: { part: 'Other', at: [20, 300, 10, 10] },
      },
    },
    Single: { layers: { only: { part: 'Boat', at: [20, 100, 300, 60] } } },
  },
});
const program = compile(piece);
const idOf = (name: string) => [...piece.layers.values()].find((layer) => layer.name === name)!.id;

const filled = (scene: string, names: readonly string[], rows: readonly (readonly string[])[]) => {
  const result = fillFromRows(program, scene, names.map(idOf), rows, counter());
  const after = compile(unwrap(apply(piece, result.operations)).piece);
  return { ...result, after };
};

const fillsIn = (of: ReturnType<typeof filled>, scene: string) =>
  [...of.after.piece.layers.values()]
    .filter((layer) => layer.scene === scene && layer.part === 'Boat')
    .sort((a, b) => a.pose.y - b.pose.y)
    .map(({ pose, fills = {} }) => [pose.y, ...Object.values(fills).map((fill) => (fill as { text: string }).text)]);

describe('rows of content', () => {
  test('named columns go where they are called, in reading order; what no text is called is said', () => {
    const result = filled(
      'Boats',
      ['second', 'first'],
      [
        ['TO', ' time ', 'Price'],
        ['Skarra', '10:40', '12'],
        ['Torn', '12:15', '9'],
      ]
    );
    expect(result.columns.map(({ name, layer }) => [name, layer && piece.layers.get(layer)!.name])).toEqual([
      ['TO', 'To'],
      [' time ', 'Time'],
      ['Price', null],
    ]);
    expect([result.filled, result.made, result.left]).toEqual([2, 0, 0]);
    expect(fillsIn(result, 'Boats')).toEqual([
      [100, 'Skarra', '10:40'],
      [200, 'Torn', '12:15'],
    ]);
  });

  test('without names columns are the texts of the part in order; rows left over are counted', () => {
    const result = filled(
      'Boats',
      ['first', 'second'],
      [
        ['10:40', 'Skarra'],
        ['12:15', 'Torn'],
        ['15:30', 'Elle'],
      ]
    );
    expect([result.filled, result.left]).toEqual([2, 1]);
    expect(fillsIn(result, 'Boats').map(([, ...texts]) => texts)).toEqual([
      ['10:40', 'Skarra'],
      ['12:15', 'Torn'],
    ]);
  });

  test('of one placement there are as many as rows, below each other', () => {
    const result = filled(
      'Single',
      ['only'],
      [
        ['Time', 'To'],
        ['1', 'a'],
        ['2', 'b'],
        ['3', 'c'],
      ]
    );
    expect([result.filled, result.made, result.left]).toEqual([3, 2, 0]);
    expect(fillsIn(result, 'Single')).toEqual([
      [100, '1', 'a'],
      [172, '2', 'b'],
      [244, '3', 'c'],
    ]);
  });

  test('what is written is taken as it stands, and what the part says anyway is no fill', () => {
    const result = filled(
      'Single',
      ['only'],
      [
        ['Time', 'To'],
        ['{Seats} \\ left', 'Somewhere'],
      ]
    );
    expect(fillsIn(result, 'Single')).toEqual([[100, '\\{Seats} \\\\ left']]);
  });

  test('nothing comes of no rows, of other layers, or of placements of several parts', () => {
    expect(filled('Boats', ['first'], []).operations).toEqual([]);
    expect(filled('Boats', ['first', 'alone'], [['Time'], ['1']]).operations).toEqual([]);
    expect(filled('Boats', ['first'], [['Time', 'To']]).operations).toEqual([]);
    expect(filled('Boats', ['first', 'second'], [['Time'], ['1']]).filled).toBe(1);
  });
});
