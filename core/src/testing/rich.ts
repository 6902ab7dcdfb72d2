import { compose, type PlacedSpec, type SceneSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { keysBetween } from '../edit/order.ts';
import { scopeOf, type LineScope } from '../lines/scope.ts';
import type { Piece } from '../piece/piece.ts';
import { randomCondition, randomCueOf, randomStepOf } from './steps.ts';
import { generator } from './large.ts';

/**
 * Random pieces with everything in them: groups, parts in parts, sheets, states, fields, choices, drags, timelines, frames laid over and
 * gone back from, bindings, and threads of every cue with every step.
 */

type Random = () => number;

const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
const upTo = (random: Random, most: number) => Math.floor(random() * (most + 1));
const maybe = (random: Random, chance: number) => random() < chance;

const place = (random: Random): readonly [number, number, number, number] => [
  upTo(random, 200),
  upTo(random, 260),
  20 + upTo(random, 120),
  20 + upTo(random, 120),
];

function plainLayer(random: Random): PlacedSpec {
  return {
    at: place(random),
    type: pick(random, ['box', 'oval', 'hit', 'box'] as const),
    ...(maybe(random, 0.1) && { hidden: true }),
    ...(maybe(random, 0.1) && { disabled: true }),
    ...(maybe(random, 0.15) && { looks: { hover: { style: { fill: '#ffcc00' } }, press: { pose: { y: 5 } } } }),
    ...(maybe(random, 0.1) && {
      drag: {
        axis: pick(random, ['x', 'y'] as const),
        snap: [
          { x: 0, y: 0 },
          { x: 60, y: 40 },
        ],
      },
    }),
    ...(maybe(random, 0.08) && { hit: { how: 'none' as const } }),
  } as PlacedSpec;
}

function fieldLayer(random: Random): PlacedSpec {
  const field = pick(random, [
    { kind: 'checkbox' as const },
    { kind: 'switch' as const, value: true },
    { kind: 'choice' as const, options: ['Skarra', 'Norhavn'], value: 'Skarra' },
    { kind: 'slider' as const, min: 0, max: 3 },
    { kind: 'slider' as const, min: 0, max: 3, variable: 'seats' },
    { kind: 'checkbox' as const, variable: 'open' },
  ]);
  return { at: place(random), type: 'field', field, name: 'Field' } as PlacedSpec;
}

/** What states and timelines change of layers that are there. */
function inTime(random: Random, names: readonly string[]): Pick<SceneSpec, 'states' | 'timeline'> {
  const delta = () =>
    pick(random, [{ hidden: true }, { pose: { x: upTo(random, 200) } }, { style: { fill: '#113355' } }, { hidden: false, pose: { y: 10 } }]);
  const some = () => Object.fromEntries(names.filter(() => maybe(random, 0.5)).map((name) => [name, delta()]));
  const first = names[0];
  return {
    ...(maybe(random, 0.5) && { states: { Calm: {}, Storm: some(), ...(maybe(random, 0.4) && { Fog: some() }) } }),
    ...(maybe(random, 0.3) && {
      timeline: {
        length: 24,
        autoplay: maybe(random, 0.7),
        labels: { Ebb: [0, pick(random, ['hold', 'go on', 'loop'] as const)], Flood: [12, 'hold'] },
        ...(first !== undefined && {
          tracks: [
            [
              first,
              'x',
              [
                [0, 0],
                [12, 80],
              ],
            ],
          ] as const,
          spans: [[first, 0, 17]] as const,
        }),
      },
    }),
  };
}

const BOUND: readonly PlacedSpec['when'][] = [
  { shown: 'seats > 1' },
  { shown: 'open and seats > 0' },
  { enabled: 'open' },
  { enabled: 'day = "Sunday"' },
  { selected: 'open' },
  { x: 'seats * 40' },
  { y: 'if open then 200 else 20', opacity: 'if seats > 0 then 1 else 0.2' },
];

const BOUND_PARTS: readonly PlacedSpec['when'][] = [{ state: 'if open then "Storm" else "Calm"' }, { shown: 'open' }, { x: 'seats * 40' }];

function scene(random: Random, parts: readonly string[], layers: number): SceneSpec {
  const made: Record<string, PlacedSpec> = {};
  const names: string[] = [];
  for (let i = 0; i < layers; i++) {
    const name = `L${i}`;
    const kind = random();
    if (kind < 0.15 && parts.length) made[name] = { at: place(random), type: 'placement', part: pick(random, parts) };
    else if (kind < 0.3) made[name] = fieldLayer(random);
    else if (kind < 0.4) {
      made[`${name}g`] = { type: 'group', ...(maybe(random, 0.3) && { scroll: 'y' as const, at: [10, 10, 120, 80] as const }) } as PlacedSpec;
      made[name] = { ...plainLayer(random), in: `${name}g` };
    } else made[name] = plainLayer(random);
    names.push(name);
  }
  const chosen = names.filter((name) => made[name]!.type === 'box').slice(0, 2);
  const isChoice = chosen.length === 2 && maybe(random, 0.2);
  if (isChoice) for (const name of chosen) made[name] = { ...made[name]!, choice: 'Day', choiceValue: name === chosen[0] ? 'Friday' : 'Sunday' };
  for (const name of names) {
    const { type, choice } = made[name]!;
    if (choice === undefined && maybe(random, 0.2)) made[name] = { ...made[name]!, when: pick(random, type === 'placement' ? BOUND_PARTS : BOUND) };
  }
  return {
    size: [300, 400],
    layers: made,
    ...inTime(random, names),
    ...(maybe(random, 0.08) && { stateIs: 'if seats > 1 then "Storm" else "Calm"' }),
    ...(isChoice && { choices: { Day: 'day' } }),
    ...(maybe(random, 0.15) && { contentHeight: 700 }),
  };
}

/** A random piece; small, so that it can be explored by trying all there is. */
export function richPiece(seed: number): Piece {
  const random = generator(seed);
  const frames = ['Home', 'Times', 'Pay', 'Card'].slice(0, 2 + upTo(random, 2));
  const isIn = maybe(random, 0.5);
  const parts = { Seat: { ...scene(random, [], 1 + upTo(random, 1)), size: [100, 100] as const } };
  const withPart = { ...parts, ...(isIn && { Row: { ...scene(random, ['Seat'], 2), size: [200, 100] as const } }) };
  const sheets = maybe(random, 0.4) ? { Bar: scene(random, ['Seat'], 1) } : undefined;
  let piece = compose({
    size: [300, 400],
    variables: {
      seats: { type: 'number', initial: 1, min: 0, max: 3 },
      open: { type: 'yes/no', initial: false },
      day: { type: 'choice', initial: 'Friday', options: ['Friday', 'Sunday'] },
    },
    parts: withPart,
    ...(sheets && { sheets }),
    frames: Object.fromEntries(
      frames.map((name) => [
        name,
        {
          ...scene(random, Object.keys(withPart), 1 + upTo(random, 2)),
          ...(sheets && maybe(random, 0.6) && { [pick(random, ['over', 'under'] as const)]: ['Bar'] }),
          ...(maybe(random, 0.2) && { onReturn: 'remember' as const }),
          ...(maybe(random, 0.1) && { ending: true }),
        },
      ])
    ),
  });
  const owners = [...piece.layers.values()].map(({ id, scene: of }) => ({ on: 'layer' as const, owner: id, scene: of }));
  const scenes = [...piece.scenes.keys()].map((id) => ({ on: 'scene' as const, owner: id, scene: id }));
  const count = 2 + upTo(random, 4);
  for (let i = 0; i < count; i++) {
    const { on, owner, scene: of } = maybe(random, 0.8) ? pick(random, owners) : pick(random, scenes);
    const operation = threadOn(random, `t${i}`, on, owner, scopeOf(piece, of, on === 'layer' ? owner : null));
    const applied = apply(piece, [operation]);
    // What cannot stand there is left out.
    if (applied.ok) piece = applied.value.piece;
  }
  return piece;
}

/** A random thread of a layer or a scene. */
export function threadOn(random: Random, id: string, on: 'layer' | 'scene', owner: string, scope: LineScope): Operation {
  const cue = maybe(random, 0.5) ? { type: 'click' as const } : randomCueOf(random, scope);
  const likely = ['go', 'go', 'state', 'set', 'lay', 'lift', 'show', 'select'] as const;
  const step = () => (maybe(random, 0.7) ? randomStepOf(random, scope, pick(random, likely)) : randomStepOf(random, scope));
  const isDecided = maybe(random, 0.25);
  return {
    op: 'put',
    table: 'threads',
    value: {
      id,
      on,
      owner,
      order: keysBetween(null, null, 10)[upTo(random, 9)]!,
      cue,
      enabled: true,
      branches: [
        { ...(isDecided && { if: randomCondition(random, scope) }), steps: Array.from({ length: 1 + upTo(random, 1) }, step) },
        ...(isDecided && maybe(random, 0.5) ? [{ steps: [step()] }] : []),
      ],
    } as { id: string },
  };
}
