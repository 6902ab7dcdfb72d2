import { expect, test } from 'vitest';
import { compile } from '../../program/compile.ts';
import { stillLayer, stillScreen } from '../../run/still.ts';
import { compose } from '../../testing/index.ts';
import { posed } from './pose.ts';
import { unveiled } from './unveil.ts';

const program = compile(
  compose({
    variables: { Seats: { type: 'number', initial: 0 } },
    frames: {
      Home: {
        states: { Shut: {}, Open: { Menu: { hidden: true } } },
        layers: {
          Eye: { at: [10, 10, 40, 40], hidden: true },
          Bound: { at: [60, 10, 40, 40], when: { shown: 'Seats > 0', enabled: 'Seats > 1' } },
          Menu: { at: [110, 10, 40, 40] },
          Group: { at: [0, 100, 200, 100], type: 'group', hidden: true },
          Inner: { in: 'Group', at: [10, 10, 40, 40] },
        },
      },
      Time: {
        layers: { Gull: { at: [10, 10, 40, 40] } },
        timeline: {
          length: 48,
          tracks: [
            [
              'Gull',
              'x',
              [
                [0, 0],
                [40, 200],
              ],
            ],
          ],
          spans: [['Gull', 30, 40]],
        },
      },
    },
  })
);

const idOf = (name: string) => [...program.piece.layers.values()].find((layer) => layer.name === name)!.id;
const shownIn = (of: typeof program, scene: string) => stillScreen(of, scene)!.surfaces.flatMap(({ all }) => all.map(({ node }) => node.layer.name));

test.each(['Eye', 'Bound', 'Inner'])('%s is shown, whatever hides it', (name) => {
  expect(shownIn(program, 'Home')).not.toContain(name);
  const seen = unveiled(program, 'Home', [idOf(name)]);
  expect(shownIn(seen, 'Home')).toContain(name);
  expect(stillLayer(seen, 'Home', idOf(name))).not.toBeNull();
  expect(stillLayer(program, 'Home', idOf(name))).toBeNull();
});

test('what a state hides is shown where it stands in that state, and other bindings stay', () => {
  const open = posed(program, { scene: 'Home', state: Object.keys(program.piece.scenes.get('Home')!.states!)[1]!, look: null });
  expect(shownIn(open, 'Home')).not.toContain('Menu');
  expect(shownIn(unveiled(open, 'Home', [idOf('Menu')]), 'Home')).toContain('Menu');
  expect(unveiled(program, 'Home', [idOf('Bound')]).piece.layers.get(idOf('Bound'))!.bindings).toEqual({ enabled: expect.any(String) as string });
});

test('what is away at a moment is shown where it would be then', () => {
  const then = posed(program, { scene: 'Time', state: null, look: null, frame: 20 });
  const gull = unveiled(then, 'Time', [idOf('Gull')]);
  const [surface] = stillScreen(gull, 'Time')!.surfaces;
  expect(surface!.all.find(({ node }) => node.layer.name === 'Gull')!.x).toBeCloseTo(100, 0);
  expect(unveiled(program, 'gone', ['x'])).toBe(program);
});
