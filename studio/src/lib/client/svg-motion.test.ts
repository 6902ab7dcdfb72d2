import { describe, expect, test } from 'vitest';
import { motionsOf, type Standing, type Written } from './svg-motion';

/** A box at 10, 20 of 40 by 30 in a drawing that shows it twice as large. */
const box: Standing = { attributes: { x: '5', y: '10', width: '20', height: '15' }, x: 10, y: 20, width: 40, height: 30, byX: 2, byY: 2 };
const read = (written: Omit<Written, 'element'> & { element?: string }, shape = box) =>
  motionsOf([{ element: 'animate', ...written } as Written], shape);

describe('motions', () => {
  test('values at even times or at their own, once, again or round and round', () => {
    expect(read({ attributeName: 'x', values: '5; 15; 25', dur: '2s', begin: '500ms' }).motions).toEqual([
      {
        property: 'x',
        goesRound: false,
        keys: [
          { seconds: 0.5, value: 10, easing: 'linear' },
          { seconds: 1.5, value: 30, easing: 'linear' },
          { seconds: 2.5, value: 50, easing: 'linear' },
        ],
      },
    ]);
    const [opacity] = read({ attributeName: 'opacity', from: '1', to: '0', dur: '1s', repeatCount: 'indefinite' }).motions;
    expect([opacity!.goesRound, opacity!.keys.map(({ value }) => value)]).toEqual([true, [1, 0]]);
    const [twice] = read({ attributeName: 'opacity', values: '0;1', keyTimes: '0;0.5', dur: '2s', repeatCount: '2' }).motions;
    expect(twice!.keys.map(({ seconds }) => seconds)).toEqual([0, 1, 2, 3]);
  });

  test('ways between: by curves, by steps', () => {
    const [curved] = read({ attributeName: 'y', values: '10;20;30', dur: '1s', calcMode: 'spline', keySplines: '.4 0 .2 1; 0,0,1,1' }).motions;
    expect(curved!.keys.map(({ easing }) => easing)).toEqual(['cubic-bezier(.4, 0, .2, 1)', 'cubic-bezier(0, 0, 1, 1)', 'linear']);
    expect(read({ attributeName: 'fill', values: '#f00;#00ff00', dur: '1s', calcMode: 'discrete' }).motions[0]!.keys).toMatchObject([
      { value: '#ff0000', easing: 'steps(1)' },
      { value: '#00ff00' },
    ]);
  });

  test('moved, turned about the middle, grown about it, set', () => {
    const moved = read({ element: 'animateTransform', type: 'translate', from: '0 0', to: '10 -5', dur: '1s' }).motions;
    expect(moved.map(({ property, keys }) => [property, keys.map(({ value }) => value)])).toEqual([
      ['x', [10, 30]],
      ['y', [20, 10]],
    ]);
    // The middle of the box, in its own px, is 15, 17.5.
    expect(
      read({ element: 'animateTransform', type: 'rotate', from: '0 15 17.5', to: '90 15 17.5', dur: '1s' }).motions[0]!.keys.map(({ value }) => value)
    ).toEqual([0, 90]);
    const circle: Standing = { attributes: { cx: '10', cy: '10', r: '5' }, x: 5, y: 5, width: 10, height: 10, byX: 1, byY: 1 };
    expect(
      read({ attributeName: 'r', from: '5', to: '10', dur: '1s' }, circle).motions.map(({ property, keys }) => [property, keys[1]!.value])
    ).toEqual([
      ['width', 20],
      ['height', 20],
      ['x', 0],
      ['y', 0],
    ]);
    expect(read({ element: 'set', attributeName: 'opacity', to: '0.5', begin: '1s' }).motions).toEqual([
      { property: 'opacity', goesRound: false, keys: [{ seconds: 1, value: 0.5, easing: 'linear' }] },
    ]);
  });

  test.each([
    ['begun by an event', { attributeName: 'x', from: '0', to: '9', dur: '1s', begin: 'click' }, 'x'],
    ['turned about something else', { element: 'animateTransform', type: 'rotate', from: '0 0 0', to: '90 0 0', dur: '1s' }, 'rotate'],
    ['another attribute', { attributeName: 'd', from: 'M0 0', to: 'M1 1', dur: '1s' }, 'd'],
    ['without a time', { attributeName: 'x', from: '0', to: '9' }, 'x'],
    ['without a beginning', { attributeName: 'x', by: '9', dur: '1s' }, 'x'],
    ['a colour that is a name', { attributeName: 'fill', from: 'red', to: 'blue', dur: '1s' }, 'fill'],
    ['times that are none', { attributeName: 'x', values: '0;9', keyTimes: '0;2', dur: '1s' }, 'x'],
  ])('%s is left', (_, written, left) => {
    expect(read(written as never)).toEqual({ motions: [], left: [left] });
  });
});
