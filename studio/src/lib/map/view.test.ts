import { expect, test } from 'vitest';
import { centredOn, fitted, MOST, onMap, zoomed } from './view';

const desk = { width: 1000, height: 600 };

test('all of the map stands in the middle', () => {
  const view = fitted({ width: 2000, height: 600 }, desk);
  expect(view.scale).toBe(0.48);
  expect(view.x).toBe(20);
  expect(view.y).toBeCloseTo((600 - 288) / 2);
  expect(fitted({ width: 10, height: 10 }, desk).scale).toBe(1.4);
});

test('a point stays where it is while it is zoomed about, and bounds hold', () => {
  const view = { x: 40, y: -20, scale: 0.5 };
  const at = onMap(view, 300, 200);
  const near = zoomed(view, 1.7, 0.1, 300, 200);
  expect(onMap(near, 300, 200).x).toBeCloseTo(at.x);
  expect(onMap(near, 300, 200).y).toBeCloseTo(at.y);
  expect(zoomed(view, 99, 0.1, 0, 0).scale).toBe(MOST);
  expect(zoomed(view, 0, 0.1, 0, 0).scale).toBe(0.1);
});

test('a place of the map comes into the middle', () => {
  const view = centredOn({ x: 0, y: 0, scale: 2 }, desk, 700, 300);
  expect(onMap(view, 500, 300)).toEqual({ x: 700, y: 300 });
});
