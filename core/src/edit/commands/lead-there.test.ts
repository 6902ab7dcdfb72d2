import { expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { threadsOf } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import { frameLedTo, leadThere } from './lead-there.ts';

const piece = compose({
  frames: {
    Map: {
      size: [390, 844],
      layers: {
        Skarra: {
          type: 'oval',
          at: [60, 160, 100, 100],
          text: 'Skarra',
          style: { fill: '#ffffff00' },
          lines: ['click → go to Skarra · dissolve 300 ms'],
        },
        Both: { at: [0, 700, 90, 44], lines: ['click → if 1 > 2 → go to Skarra; otherwise → go to Orrin'] },
        Out: { at: [0, 760, 90, 44], lines: ['click → open https://kittiwake.example in new tab'] },
      },
    },
    Skarra: {},
    Orrin: {},
    'Set {a} sail': {},
  },
});
const program = compile(piece);

function put(frame: string, x: number, y: number, like: string | null = null) {
  let n = 0;
  const made = leadThere(program, 'Map', frame, { x, y }, like, () => `new${n++}`)!;
  const now = unwrap(apply(piece, made.operations)).piece;
  return { layer: now.layers.get(made.id)!, threads: threadsOf(now, made.id), count: now.layers.size - piece.layers.size };
}

test('what a click on a layer leads to is told where that is all it does', () => {
  expect(['Skarra', 'Both', 'Out', 'gone'].map((name) => frameLedTo(piece, `Map_${name}`))).toEqual(['Skarra', null, null, null]);
});

test('a button named after the frame stands where it was put down, and leads there', () => {
  const { layer, threads, count } = put('Orrin', 200, 300);
  expect([layer.name, layer.text, layer.type, count]).toEqual(['Orrin', 'Orrin', 'box', 1]);
  expect([layer.pose.x + layer.pose.width / 2, layer.pose.y + layer.pose.height / 2]).toEqual([200, 300]);
  expect(threads.map(({ cue, branches }) => [cue.type, branches[0]!.steps[0]])).toEqual([
    ['click', { do: 'go', target: { to: 'frame', frame: 'Orrin' }, transition: { type: 'cut' } }],
  ]);
});

test('it stays within the frame, and a brace in a name is one', () => {
  const { layer } = put('Set-a-sail', 0, 2000);
  expect(layer.pose).toMatchObject({ x: 0, y: 844 - 48 });
  expect(layer.text).toBe('Set \\{a} sail');
  expect(leadThere(program, 'gone', 'Orrin', { x: 0, y: 0 }, null, () => 'x')).toBeNull();
});

test('one more of what leads to another frame looks and goes as that does, and is called after its own', () => {
  const { layer, threads, count } = put('Orrin', 260, 400, 'Map_Skarra');
  expect([layer.name, layer.text, layer.type, count]).toEqual(['Orrin', 'Orrin', 'oval', 1]);
  expect(layer.pose).toMatchObject({ x: 210, y: 350, width: 100, height: 100 });
  expect(layer.style).toEqual(piece.layers.get('Map_Skarra')!.style);
  expect(threads.map(({ branches }) => branches[0]!.steps[0])).toMatchObject([
    { target: { frame: 'Orrin' }, transition: { type: 'dissolve', ms: 300 } },
  ]);
});
