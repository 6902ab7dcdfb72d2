import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, type PlacedSpec, type ComposeSpec as Spec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { timesOver } from '../testing/runs.ts';
import { audit } from './audit.ts';
import { facesOf, heightOver, middleOf, type Plane } from './faces.ts';

/** Numbers that are put into fields and asked about together: whatever can come about is met, and what is said never to does not. */

type Range = { readonly kind: 'slider' | 'number'; readonly min?: number; readonly max?: number; readonly step?: number };

const NAMES = ['a', 'b', 'c', 'd'];
const button = (y: number, line: string): PlacedSpec => ({ at: [0, y, 200, 60], text: `Go ${y}`, lines: [line] });
const back = { layers: { back: button(0, 'click → go to home') } };

function spec(condition: string, ranges: readonly Range[], more: Partial<Spec> = {}, besides: Spec['frames'][string]['layers'] = {}): Spec {
  const fields = ranges.map((field, i) => [NAMES[i]!, { type: 'field', at: [220, i * 70, 200, 60], label: NAMES[i]!, field }] as const);
  const layers = { ...Object.fromEntries(fields), ...besides, go: button(0, `click → if ${condition} → go to shop`) };
  return { ...more, frames: { home: { layers }, shop: back } };
}

function said(made: Spec) {
  const { exploration, findings } = audit(compile(compose(made)));
  const never = findings.some(({ rule }) => rule === 'never-fires');
  return { cut: exploration.cut, isMet: exploration.reached.has('shop'), never };
}

const MET = { cut: null, isMet: true, never: false };
const NEVER = { cut: null, isMet: false, never: true };

const hundred: Range = { kind: 'slider', min: 0, max: 100 };
const whole: Range = { ...hundred, step: 1 };
const ten: Range = { kind: 'slider', min: 0, max: 10, step: 1 };
const any: Range = { kind: 'number' };
const some: Range = { kind: 'number', min: 0 };

describe('numbers put into fields', () => {
  test.each<[string, Range[]]>([
    ['a.value + b.value > 150', [hundred, hundred]],
    ['a.value + b.value > 150', [whole, whole]],
    ['a.value + b.value = 200', [hundred, whole]],
    ['a.value - b.value > 99', [hundred, hundred]],
    ['a.value * b.value = 35', [ten, ten]],
    ['a.value / b.value > 3', [hundred, { ...hundred, min: 1 }]],
    ['modulo(a.value, 7) = b.value + 1', [ten, ten]],
    ['max(a.value, b.value) < 10 and min(a.value, b.value) > 8', [hundred, hundred]],
    ['a.value + b.value + c.value > 290', [hundred, hundred, hundred]],
    ['a.value + b.value + c.value = 100', [some, some, some]],
    ['a.value > b.value and b.value > c.value', [any, any, any]],
    ['a.value + b.value + c.value + d.value = 400', [hundred, hundred, hundred, hundred]],
    ['a.value = b.value and a.value > 7', [any, some]],
    ['abs(a.value - b.value) > 99', [hundred, hundred]],
    ['floor(a.value / 10) = 7', [hundred]],
    ['round half up((a.value + b.value) / 40, 0) = 5', [hundred, hundred]],
    ['round half up(a.value / 3, 1) * 2 = 1.4', [hundred]],
    ['a.value between b.value and b.value + 1', [hundred, hundred]],
  ])('are found where something comes of them together: %s', (condition, ranges) => {
    expect(said(spec(condition, ranges))).toEqual(MET);
  });

  test.each<[string, Range[]]>([
    ['a.value + b.value > 200', [hundred, hundred]],
    ['a.value + b.value > 200', [whole, whole]],
    ['a.value * b.value = 11', [ten, ten]],
    ['a.value / b.value > 10', [ten, { ...ten, min: 1 }]],
    ['a.value / b.value > 100', [hundred, { ...hundred, min: 1 }]],
    ['a.value + b.value + c.value > 300', [hundred, hundred, hundred]],
    ['a.value > b.value and b.value > c.value and c.value > a.value', [any, any, any]],
    [
      'a.value + b.value = 51',
      [
        { ...whole, step: 2 },
        { ...whole, step: 2 },
      ],
    ],
    ['a.value < b.value and a.value - b.value >= 0', [any, any]],
    ['floor(a.value / 10) > 10', [hundred]],
    ['ceiling(a.value / 10) < 0', [hundred]],
    ['floor(a.value / 10) = 7.5', [hundred]],
    ['abs(a.value) > 100', [{ kind: 'number', min: -100, max: 100 }]],
    ['max(a.value, b.value) < 10 and min(a.value, b.value) >= 10', [hundred, hundred]],
  ])('are told never to come to what they cannot: %s', (condition, ranges) => {
    expect(said(spec(condition, ranges))).toEqual(NEVER);
  });

  const member = { member: { type: 'field' as const, at: [220, 400, 200, 60] as const, label: 'Member', field: { kind: 'checkbox' as const } } };

  test('with what is chosen, with a limit that is set, and by way of a variable', () => {
    const price = '(if member.selected then 10 else 12) * a.value > 100';
    expect(said(spec(price, [{ kind: 'number', min: 1, max: 9 }], {}, member))).toEqual(MET);
    expect(said(spec(price, [{ kind: 'number', min: 1, max: 8 }], {}, member))).toEqual(NEVER);
    const limited = (most: number) =>
      said(
        spec(
          'a.value + b.value > Limit',
          [hundred, hundred],
          { variables: { Limit: { type: 'number', initial: 250 } } },
          { more: button(100, `click → set Limit to ${most}`) }
        )
      );
    expect([limited(199), limited(201)]).toEqual([MET, NEVER]);
    const summed = (condition: string) =>
      said(
        spec(
          condition,
          [hundred, hundred],
          { variables: { Sum: { type: 'number', initial: 0 } } },
          { sum: button(100, 'click → set Sum to a.value + b.value') }
        )
      );
    expect([summed('Sum > 199'), summed('Sum > 200')]).toEqual([MET, NEVER]);
  });

  test('with what is picked from a list', () => {
    const who = { who: { ...member.member, label: 'Who', field: { kind: 'choice' as const, options: ['Child', 'Grown'] } } };
    const price = (most: number) =>
      said(spec(`(if who.value = "Child" then 5 else 10) * a.value > ${most}`, [{ kind: 'number', min: 1, max: 6 }], {}, who));
    expect([price(59), price(60)]).toEqual([MET, NEVER]);
  });

  test('where they are many, each as far as it goes: what is met so is met, and no more is said', () => {
    const many = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
    const fields = Object.fromEntries(
      many.slice(4).map((name, i) => [name, { type: 'field' as const, at: [220, 300 + i * 70, 200, 60] as const, label: name, field: ten }])
    );
    const sum = many.map((name) => `${name}.value`).join(' + ');
    const asked = (most: number) => said(spec(`${sum} > ${most}`, [ten, ten, ten, ten], {}, fields));
    expect(asked(69)).toMatchObject({ isMet: true });
    expect(asked(70)).toEqual({ cut: 'not tried: all that can be put into a, b and c', isMet: false, never: false });
  });

  test('what two fields hold, and what a step sets beyond a field, is not taken for what it begins with', () => {
    const shared = (y: number) => ({
      type: 'field' as const,
      at: [220, y, 200, 60] as const,
      label: 'Limit',
      field: { kind: 'number' as const, variable: 'Limit' },
    });
    const Limit = { type: 'number' as const, initial: 50 };
    const made = spec('a.value > Limit + 60', [hundred], { variables: { Limit } }, { one: shared(400), two: shared(500) });
    expect(said(made)).toMatchObject({ never: false });
    const mirrored: Range & { variable: string } = { ...hundred, variable: 'Limit' };
    const beyond = spec('Limit + b.value = 250', [mirrored, hundred], { variables: { Limit } }, { more: button(500, 'click → set Limit to 200') });
    expect(said(beyond)).toMatchObject({ never: false });
  });

  test('what can be filled while the other cannot is not taken to be tried whole', () => {
    const made = spec('a.value + b.value > 200', [hundred, hundred]);
    const { home } = made.frames!;
    const hidden = { ...home!.layers!['b']!, when: { enabled: 'a.value > 50' } };
    expect(said({ ...made, frames: { ...made.frames, home: { layers: { ...home!.layers, b: hidden } } } })).toEqual({
      cut: 'not tried: all that can be put into a and b',
      isMet: false,
      never: false,
    });
  });

  const random = fc.record({
    ranges: fc.array(fc.record({ min: fc.integer({ min: -3, max: 3 }), count: fc.integer({ min: 0, max: 6 }), step: fc.constantFrom(1, 2, 0.5) }), {
      minLength: 2,
      maxLength: 3,
    }),
    asked: fc.array(
      fc.record({
        times: fc.array(fc.constantFrom(-2, -1, 0, 1, 1, 3), { minLength: 3, maxLength: 3 }),
        op: fc.constantFrom('=', '<', '>=', '!='),
        to: fc.integer({ min: -12, max: 14 }),
      }),
      { minLength: 1, maxLength: 3 }
    ),
  });

  const holds = {
    '=': (a: number, b: number) => a === b,
    '<': (a: number, b: number) => a < b,
    '>=': (a: number, b: number) => a >= b,
    '!=': (a: number, b: number) => a !== b,
  };

  test('are met if, and only if, some of all there are do', () => {
    let met = 0;
    fc.assert(
      fc.property(random, ({ ranges, asked }) => {
        const all = ranges.reduce<number[][]>(
          (tuples, { min, count, step }) => tuples.flatMap((one) => Array.from({ length: count + 1 }, (_, i) => [...one, min + i * step])),
          [[]]
        );
        const isSo = all.some((tuple) =>
          asked.every(({ times, op, to }) =>
            holds[op as keyof typeof holds](
              tuple.reduce((sum, value, i) => sum + value * times[i]!, 0),
              to
            )
          )
        );
        met += Number(isSo);
        const sums = asked.map(({ times, op, to }) => `${ranges.map((_, i) => `${times[i]} * ${NAMES[i]}.value`).join(' + ')} ${op} ${to}`);
        const fields = ranges.map(({ min, count, step }): Range => ({ kind: 'slider', min, max: min + count * step, step }));
        expect([sums, said(spec(sums.join(' and '), fields))]).toEqual([sums, isSo ? MET : NEVER]);
      }),
      { numRuns: timesOver(60) }
    );
    expect(met).toBeGreaterThan(5);
  });
});

describe('what is dragged', () => {
  const along = { axis: 'x' as const, bounds: { left: 0, right: 160, top: 0, bottom: 0 } };
  const knob = (y: number, more: Partial<PlacedSpec> = {}): PlacedSpec => ({ at: [20, y, 40, 40], drag: along, ...more });
  const dragged = (condition: string, k: PlacedSpec = knob(300), more: Spec['frames'] = {}) =>
    said(spec(condition, [], {}, { k, m: knob(400), ...more }));

  test.each([
    ['k.x > 150', MET],
    ['k.x > 99 and k.x < 101', MET],
    ['(k.x - 20) / 1.6 >= 100', MET],
    ['k.x + m.x > 359', MET],
    ['k.x > 180', NEVER],
    ['k.x < 99 and k.x > 101', NEVER],
    ['k.x + m.x > 360', NEVER],
  ])('is brought to where what is asked of its place comes out: %s', (condition, wanted) => {
    expect(dragged(condition)).toEqual(wanted);
  });

  test('stays where it can be taken again, and along both ways where it may be', () => {
    const free = knob(300, { drag: { axis: 'both' } });
    expect(dragged('k.x > 150 and k.y < 100', free)).toEqual(MET);
    expect(dragged('k.x > 15000', free)).toEqual(NEVER);
  });

  test('what else moves it is not taken to be tried whole', () => {
    const cut = expect.stringMatching(/not tried: all places that k can be dragged to/);
    for (const more of [{ when: { y: 'm.x' } }, { looks: { hover: { pose: { x: 5 } } } }] as Partial<PlacedSpec>[])
      expect(dragged('k.x > 190', knob(300, more))).toMatchObject({ cut });
  });

  test('in parts, each where it is placed', () => {
    const placed = (line: string) => {
      const Track = { size: [200, 40] as const, layers: { k: { ...knob(0), at: [0, 0, 40, 40] as const, lines: [line] } } };
      const at = (y: number) => ({ type: 'placement' as const, part: 'Track', at: [20, y, 200, 40] as const });
      const made = spec(
        'm.x > 20',
        [],
        { parts: { Track }, variables: { Full: { type: 'yes/no', initial: false } } },
        { m: knob(500), one: at(100), two: at(200) }
      );
      const { exploration } = audit(compile(compose(made)));
      return [exploration.cut, [...exploration.branches].filter((branch) => branch.includes('Track')).length];
    };
    expect(placed('drop → if k.x > 99 and k.x < 101 → set Full to true')).toEqual([null, 1]);
    expect(placed('drop → if k.x > 160 → set Full to true')).toEqual([null, 0]);
  });

  test('how something stands or is seen by it leaves nothing untried', () => {
    const bar = { bar: { at: [20, 600, 100, 10], when: { width: 'k.x * m.x / 10', opacity: 'k.x / 180' } } } as Record<string, PlacedSpec>;
    expect(said(spec('k.x > 180', [], {}, { k: knob(300), m: knob(400), ...bar }))).toEqual(NEVER);
  });
});

test('every point of a box is on one of its faces, and each face has a point of its own', () => {
  const number = fc.integer({ min: -4, max: 4 });
  const plane = fc.record({ times: fc.array(number, { minLength: 3, maxLength: 3 }), plus: number });
  const point = fc.array(fc.double({ min: -3, max: 5, noNaN: true }), { minLength: 3, maxLength: 3 });
  const box = [-3, -3, -3].map((least) => ({ least, most: 5 }));
  const signsAt = (planes: readonly Plane[], at: readonly number[]) =>
    planes.map((one) => (Math.abs(heightOver(one, at)) < 1e-7 ? 0 : Math.sign(heightOver(one, at)))).join();
  fc.assert(
    fc.property(fc.array(plane, { maxLength: 4 }), fc.array(point, { maxLength: 30 }), (planes, points) => {
      const faces = facesOf(box, planes);
      if (!faces) return;
      const known = new Set(faces.map(({ signs }) => signs.join()));
      expect(known.size).toBe(faces.length);
      for (const face of faces) expect(signsAt(planes, middleOf(face))).toBe(face.signs.join());
      for (const at of [...points, ...points.map((at) => at.map(Math.round))]) expect(known).toContain(signsAt(planes, at));
    }),
    { numRuns: timesOver(60) }
  );
});
