import type { ComposeSpec, PlacedSpec, SceneSpec } from '../compose/compose.ts';
import { compose } from '../compose/compose.ts';
import type { Piece } from '../piece/piece.ts';
import { generator } from './large.ts';
import { seat } from './seats.ts';

/**
 * Random pieces as people make them: some frames, on each of them some of what such pieces are made of, and buttons that lead from frame to
 * frame. What one frame asks for may be said on another.
 */

type Variables = Record<string, NonNullable<ComposeSpec['variables']>[string]>;

/** A frame as it is put together; layers without a place get one. */
interface Making {
  readonly variables: Variables;
  readonly layers: Record<string, Omit<PlacedSpec, 'at'>>;
  readonly lines: string[];
  states?: SceneSpec['states'];
  /** The name of any frame. */
  readonly any: () => string;
}

/** What is put on a frame, with a name that nothing else has. */
type Feature = (making: Making, name: string) => void;

const yesNo = { type: 'yes/no', initial: false } as const;

export const features = {
  toggle: ({ variables, layers }, n) => {
    variables[`On${n}`] = yesNo;
    layers[`toggle${n}`] = { lines: [`click → if On${n} = false → set On${n} to true; otherwise → set On${n} to false`] };
    layers[`badge${n}`] = { when: { shown: `On${n}` } };
  },
  counter: ({ variables, layers }, n) => {
    variables[`N${n}`] = { type: 'number', initial: 1, min: 0, max: 9 };
    layers[`more${n}`] = { lines: [`click → if N${n} < 4 → set N${n} to N${n} + 1`] };
    layers[`less${n}`] = { when: { enabled: `N${n} > 0` }, lines: [`click → set N${n} to N${n} - 1`] };
  },
  form: ({ variables, layers, any }, n) => {
    variables[`Name${n}`] = { type: 'text', initial: '' };
    layers[`field${n}`] = { type: 'field', field: { kind: 'text', variable: `Name${n}` } };
    layers[`send${n}`] = { when: { enabled: `string length(Name${n}) > 2` }, lines: [`click → go to ${any()}`] };
  },
  'form of two': ({ variables, layers, any }, n) => {
    variables[`Yes${n}`] = yesNo;
    variables[`Word${n}`] = { type: 'text', initial: '' };
    layers[`box${n}`] = { type: 'field', field: { kind: 'checkbox', variable: `Yes${n}` } };
    layers[`word${n}`] = { type: 'field', field: { kind: 'text', variable: `Word${n}` } };
    layers[`both${n}`] = { when: { enabled: `Yes${n} and string length(Word${n}) > 1` }, lines: [`click → go to ${any()}`] };
  },
  gate: ({ variables, layers, any }, n) => {
    variables[`Gate${n}`] = yesNo;
    layers[`turn${n}`] = { lines: [`click → if Gate${n} = false → set Gate${n} to true; otherwise → set Gate${n} to false`] };
    layers[`pass${n}`] = { lines: [`click → if Gate${n} → go to ${any()}`] };
  },
  choice: ({ variables, layers, any }, n) => {
    variables[`Port${n}`] = { type: 'text', initial: 'Inne' };
    layers[`port${n}`] = { type: 'field', field: { kind: 'choice', options: ['Inne', 'Tolm', 'Skarra'], variable: `Port${n}` } };
    layers[`sail${n}`] = { lines: [`click → if Port${n} = "Tolm" → go to ${any()}; otherwise → go to ${any()}`] };
  },
  reset: ({ variables, layers, any }, n) => {
    variables[`Set${n}`] = yesNo;
    layers[`set${n}`] = { lines: [`click → set Set${n} to true`] };
    layers[`unset${n}`] = { lines: [`click → if Set${n} → set Set${n} to false; then go to ${any()}`] };
  },
  'one way': ({ variables, layers, any }, n) => {
    variables[`Once${n}`] = yesNo;
    layers[`once${n}`] = { lines: [`click → set Once${n} to true`] };
    layers[`after${n}`] = { lines: [`click → if Once${n} → go to ${any()}`] };
  },
  told: ({ variables, layers, lines, any }, n) => {
    variables[`Told${n}`] = yesNo;
    layers[`switch${n}`] = { type: 'field', field: { kind: 'switch', variable: `Told${n}` } };
    lines.push(`variable Told${n} → if Told${n} → go to ${any()}`);
  },
  late: ({ variables, layers, lines, any }, n) => {
    variables[`Late${n}`] = yesNo;
    layers[`late${n}`] = { type: 'field', field: { kind: 'checkbox', variable: `Late${n}` } };
    lines.push(`after 2 s → if Late${n} → go to ${any()}`);
  },
  timer: (making, n) => {
    making.states = { Calm: {}, Storm: {} };
    making.lines.push('after 3 s → put this in Storm');
    making.layers[`calm${n}`] = { lines: ['click → put this in Calm'] };
  },
  hover: ({ variables, layers }, n) => {
    variables[`Over${n}`] = yesNo;
    layers[`over${n}`] = { lines: [`hover → set Over${n} to true`, `leave → set Over${n} to false`] };
    layers[`tip${n}`] = { when: { shown: `Over${n}` } };
  },
  slider: ({ variables, layers }, n) => {
    variables[`Wind${n}`] = { type: 'number', initial: 0 };
    layers[`wind${n}`] = { type: 'field', field: { kind: 'slider', min: 0, max: 10, step: 1, variable: `Wind${n}` } };
    layers[`gale${n}`] = { when: { shown: `Wind${n} > 7` } };
  },
  stepper: ({ layers }, n) => void (layers[`stepper${n}`] = { type: 'placement', part: 'Stepper' }),
  seat: ({ layers }, n) => void (layers[`seat${n}`] = { type: 'placement', part: 'Seat' }),
  menu: ({ layers }, n) => void (layers[`menu${n}`] = { lines: ['click → lay over Menu at bottom scrim 30 %'] }),
  back: ({ layers }, n) => void (layers[`back${n}`] = { lines: ['click → go to back'] }),
} satisfies Record<string, Feature>;

export interface Size {
  readonly frames: number;
  /** Features on each frame. */
  readonly each: number;
  /** Buttons that ask for what is set somewhere. */
  readonly crossing: number;
}

const KINDS: readonly Feature[] = Object.values(features);

export function deskSized(seed: number, { frames, each, crossing }: Size): Piece {
  const random = generator(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const names = Array.from({ length: frames }, (_, i) => `Deck ${i + 1}`);
  const variables: Variables = {};
  const any = () => pick(names);
  const made = names.map((name, i): Making => {
    const making: Making = { variables, layers: {}, lines: [], any };
    for (let n = 0; n < each; n++) pick(KINDS)(making, `${i + 1}${'abcdefgh'[n]}`);
    names.forEach((other, j) => {
      if (other !== name && (random() < 0.5 || j === (i + 1) % frames)) making.layers[`to ${other}`] = { lines: [`click → go to ${other}`] };
    });
    return making;
  });
  const asked = Object.entries(variables);
  for (let n = 0; n < crossing && asked.length > 0; n++) {
    const [name, { type }] = pick(asked);
    const condition = type === 'yes/no' ? name : type === 'number' ? `${name} > 2` : `${name} = "Tolm"`;
    pick(made).layers[`crossing ${n}`] = { lines: [`click → if ${condition} → go to ${any()}`] };
  }
  return compose({
    variables,
    parts: {
      Seat: seat(40, 44),
      Stepper: {
        size: [40, 44],
        variables: { Count: { type: 'number', initial: 0 } },
        layers: { up: { at: [0, 0, 40, 44], lines: ['click → if Count < 3 → set Count to Count + 1; otherwise → set Count to 0'] } },
      },
    },
    frames: {
      ...Object.fromEntries(names.map((name, i) => [name, frameOf(made[i]!)])),
      Menu: { size: [200, 300], layers: { shut: { at: [0, 0, 100, 44], lines: ['click → lift'] } } },
    },
  });
}

function frameOf({ layers, lines, states }: Making): SceneSpec {
  const placed = Object.entries(layers).map(([name, layer], i): [string, PlacedSpec] => [
    name,
    { at: [(i % 8) * 46, Math.floor(i / 8) * 60, 40, 44], ...layer } as PlacedSpec,
  ]);
  return { layers: Object.fromEntries(placed), lines, ...(states && { states }) };
}
