import { expect, test } from 'vitest';
import { compile } from '../../program/compile.ts';
import { compose } from '../../testing/index.ts';
import { posed } from './pose.ts';

test('at a moment, layers stand where their keys put them, or only those that are asked for', () => {
  const piece = compose({
    frames: {
      home: {
        layers: { gull: { at: [0, 0, 10, 10] }, buoy: { at: [5, 5, 10, 10] } },
        timeline: {
          length: 20,
          tracks: [
            [
              'gull',
              'x',
              [
                [0, 0],
                [10, 100],
              ],
            ],
            [
              'buoy',
              'x',
              [
                [0, 5],
                [10, 55],
              ],
            ],
          ],
        },
      },
    },
  });
  const program = compile(piece);
  const [scene] = program.frames;
  const xs = (only?: (id: string) => boolean) => {
    const { items } = posed(program, {
      scene: scene!,
      state: null,
      look: null,
      frame: 5,
      ...(only && { only: ({ name }) => only(name) }),
    }).scenes.get(scene!)!;
    return Object.fromEntries(items.map(({ layer, box }) => [layer.name, box.x]));
  };
  expect(xs()).toEqual({ gull: 50, buoy: 30 });
  expect(xs((name) => name === 'buoy')).toEqual({ gull: 0, buoy: 30 });
  expect(posed(program, { scene: scene!, state: null, look: null, frame: 5, only: () => false })).toBe(program);
});
