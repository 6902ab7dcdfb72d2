import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { compose } from '../testing/index.ts';
import { leadsFrom } from './leads-from.ts';

const program = compile(
  compose({
    variables: { Seats: { type: 'number', initial: 0 } },
    parts: { Card: { size: [100, 40], layers: { More: { at: [60, 0, 60, 40], lines: ['click → go to Trip'] } } } },
    frames: {
      Home: {
        size: [300, 200],
        states: { Calm: {}, Storm: { Off: { hidden: false }, Plan: { hidden: true } } },
        layers: {
          Plan: { at: [10, 10, 80, 44], lines: ['click → go to Trip'] },
          Pay: { at: [10, 60, 80, 44], lines: ['click → if Seats > 0 → go to Paid; otherwise → go to Trip'] },
          Count: { at: [100, 60, 80, 44], lines: ['click → set Seats to Seats + 1'] },
          Web: { at: [260, 10, 80, 44], lines: ['click → open https://kittiwake.example/ in new tab'] },
          Off: { at: [10, 120, 80, 44], hidden: true, lines: ['click → go to Paid'] },
          Card: { at: [100, 120, 200, 80], type: 'placement', part: 'Card' },
          Near: { at: [200, 10, 30, 30], lines: ['hover → go to Paid'] },
        },
      },
      Trip: { size: [300, 200], layers: { Home: { at: [0, 0, 80, 44], lines: ['click → wait 1 s; go to Home'] } } },
      Paid: { size: [300, 200], layers: {} },
    },
  })
);
const id = (name: string) => program.frames.find((frame) => program.scenes.get(frame)!.scene.name === name)!;

test('a frame leads where a click there leads just then: by its conditions, on the web, out of parts, cut at its edge', () => {
  expect(leadsFrom(program, id('Home'))).toEqual([
    { name: 'Plan', area: { x: 10, y: 10, width: 80, height: 44 }, to: { frame: id('Trip') } },
    { name: 'Pay', area: { x: 10, y: 60, width: 80, height: 44 }, to: { frame: id('Trip') } },
    { name: 'Web', area: { x: 260, y: 10, width: 40, height: 44 }, to: { address: 'https://kittiwake.example/' } },
    { name: 'More', area: { x: 220, y: 120, width: 80, height: 80 }, to: { frame: id('Trip') } },
  ]);
});

test('in another state what is seen there leads, and what is hidden does not; what leads on later is left out', () => {
  const storm = Object.entries(program.scenes.get(id('Home'))!.scene.states!).find(([, { name }]) => name === 'Storm')![0];
  const leads = leadsFrom(program, id('Home'), { state: storm });
  expect(leads.map(({ name, to }) => [name, to])).toEqual([
    ['Pay', { frame: id('Trip') }],
    ['Web', { address: 'https://kittiwake.example/' }],
    ['Off', { frame: id('Paid') }],
    ['More', { frame: id('Trip') }],
  ]);
  expect(leadsFrom(program, id('Trip'))).toEqual([]);
  expect(leadsFrom(program, 'gone')).toEqual([]);
});
