import { expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec, type SceneSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import type { Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { update, type Program } from '../program/program.ts';
import { generator } from '../testing/large.ts';
import { timesOver } from '../testing/runs.ts';
import { seat } from '../testing/seats.ts';
import { judge } from './audit.ts';
import type { Exploring } from './exploration.ts';
import { exploring } from './explore.ts';

/** Brought up to date is made anew: small pieces in which most layers follow something, edited again and again where they do. */

/** More than any of them have. */
const MOST_STATES = 1500;

const pickBy =
  (random: () => number) =>
  <T>(from: readonly T[]): T =>
    from[Math.floor(random() * from.length)]!;

const FRAMES = ['a', 'b', 'c'];
const CONDITIONS = ['seats > 1', 'seats = 0', 'lit', 'not(lit)', 'seats = 2 and lit', 'one.shown', 'not(two.enabled)', 'one.x > 40'];
/** What only one of the frames has. */
const OWN: Readonly<Record<string, readonly string[]>> = { a: ['chair.state = "Taken"'], b: ['tick.selected'] };

function bound(seed: number): ComposeSpec {
  const random = generator(seed);
  const pick = pickBy(random);
  const layer = (frame: string, i: number): PlacedSpec => {
    const condition = () => pick([...CONDITIONS, ...(OWN[frame] ?? [])]);
    const lines = [
      `click → go to ${pick(FRAMES)}`,
      'click → set seats to seats + 1',
      'click → if lit = true → set lit to false; otherwise → set lit to true',
      'click → go to back',
      `click → if ${condition()} → go to ${pick(FRAMES)}`,
      `hover → go to ${pick(FRAMES)}`,
      'click → lay over d at center',
      ...(frame === 'a' ? ['click → put chair in Taken'] : []),
    ];
    const when: PlacedSpec['when'][] = [
      undefined,
      { shown: condition() },
      { enabled: condition() },
      { shown: condition(), enabled: condition() },
      { x: pick(['seats * 30', 'if lit then 10 else 200', 'one.x + 5']) },
      { opacity: 'if lit then 1 else 0' },
      { selected: pick(['lit', 'seats > 1']) },
    ];
    const follows = pick(when);
    return { at: [10 + 70 * i, 20, 60, 50], text: 'Go', lines: [pick(lines)], ...(follows && { when: follows }) };
  };
  const frame = (name: string): SceneSpec => ({
    layers: {
      ...Object.fromEntries(['one', 'two', 'three'].map((layerName, i) => [layerName, layer(name, i)])),
      ...(name === 'a' && { chair: { type: 'placement', part: 'seat', at: [100, 200, 60, 60] } }),
      ...(name === 'b' && { tick: { at: [10, 200, 44, 44], lines: ['click → select this'] } }),
    },
  });
  return {
    variables: { seats: { type: 'number', initial: 0, min: 0, max: 2 }, lit: { type: 'yes/no', initial: false } },
    parts: { seat: seat(60, 60) },
    frames: { a: frame('a'), b: frame('b'), c: frame('c'), d: { ...frame('d'), size: [300, 300] } },
  };
}

/** Something of a layer set to what it is elsewhere, or a frame or a thread made another. */
function editOf(piece: Piece, random: () => number): Operation {
  const pick = pickBy(random);
  const [layers, frames, threads] = [[...piece.layers.values()], [...piece.scenes.values()], [...piece.threads.values()]];
  const kind = random();
  if (kind > 0.93) {
    const thread = pick(threads);
    return { op: 'set', table: 'threads', id: thread.id, path: ['enabled'], value: !thread.enabled };
  }
  if (kind > 0.85) return { op: 'set', table: 'scenes', id: pick(frames).id, path: ['name'], value: `Frame ${Math.floor(random() * 1000)}` };
  const paths = [
    ['bindings', 'shown'],
    ['bindings', 'shown'],
    ['bindings', 'enabled'],
    ['bindings', 'x'],
    ['bindings'],
    ['hidden'],
    ['text'],
    ['pose', 'x'],
    ['looks'],
  ];
  const path = pick(paths);
  const alike = pick(layers) as unknown as Record<string, unknown>;
  const there = path.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], alike);
  const variables = [...piece.variables.values()].map(({ id, initial }) => (typeof initial === 'number' ? `‹${id}› > 1` : `not(‹${id}›)`));
  const value =
    path[1] === 'shown' || path[1] === 'enabled'
      ? pick(['true', 'false', ...variables, there])
      : path[0] === 'hidden'
        ? pick([true, undefined])
        : there;
  return { op: 'set', table: 'layers', id: pick(layers).id, path, value };
}

const saidOf = (program: Program, going: Exploring) => {
  going.on(MOST_STATES);
  const found = going.result();
  return {
    cut: found.cut,
    reached: [...found.reached.keys()].sort(),
    findings: judge(program, found)
      .findings.map(({ id, sentence }) => `${id}: ${sentence}`)
      .sort(),
  };
};

test('whatever is edited, what is found goes on as what is found of the edited piece by itself', () => {
  let compared = 0;
  for (let seed = 0; seed < timesOver(12); seed++) {
    let program = compile(compose(bound(seed)));
    let going = exploring(program);
    going.on(MOST_STATES);
    const random = generator(seed + 1e6);
    for (let i = 0; i < 10; i++) {
      const edit = editOf(program.piece, random);
      const made = apply(program.piece, [edit]);
      if (!made.ok) continue;
      program = update(program, made.value.piece, made.value.touched);
      going = exploring(program, going);
      const anew = compile(made.value.piece);
      expect({ seed, i, edit, ...saidOf(program, going) }).toEqual({ seed, i, edit, ...saidOf(anew, exploring(anew)) });
      compared++;
    }
  }
  expect(compared).toBeGreaterThan(timesOver(12) * 8);
}, 600_000);
