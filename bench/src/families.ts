import { seat, type ComposeSpec, type PlacedSpec } from '@zany/core/testing';
import type { Model } from './spin.ts';

const row = (count: number, made: (i: number) => PlacedSpec): Record<string, PlacedSpec> =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`l${i}`, { at: [(i % 10) * 38, Math.floor(i / 10) * 50, 36, 44], ...made(i) }]));

/** One family of pieces by what tells their states apart, each with the size to explore and one that trying everything can. */
export interface Family {
  readonly make: (n: number) => ComposeSpec;
  readonly whole: number;
  readonly small: number;
  /** The same for a compiled verifier. */
  readonly model?: (n: number) => Model;
  /** States a second that there have to be. */
  readonly least?: number;
}

const switches = (n: number): ComposeSpec['variables'] =>
  Object.fromEntries(Array.from({ length: n }, (_, i) => [`v${i}`, { type: 'yes/no', initial: false }]));

/** Each is asked for: what nothing reads tells no states apart. */
const turning = (i: number) => ({ lines: [`click → if v${i} = false → set v${i} to true; otherwise → set v${i} to false`] });

const seats = (n: number): ComposeSpec => ({
  parts: { Seat: seat(36, 44) },
  frames: { home: { layers: row(n, () => ({ type: 'placement', part: 'Seat' })) } },
});

export const families: Record<string, Family> = {
  'yes/no variables': {
    make: (n) => ({
      variables: switches(n),
      frames: {
        home: { layers: row(n, turning) },
      },
    }),
    whole: 18,
    small: 7,
    model: (variables) => ({ variables, most: 1, step: 'round' }),
  },
  'placed parts with states': {
    make: seats,
    least: 500_000,
    whole: 18,
    small: 7,
  },
  'seats that nothing depends on': {
    make: seats,
    whole: 60,
    small: 7,
  },
  counters: {
    make: (n) => ({
      variables: Object.fromEntries(Array.from({ length: n }, (_, i) => [`v${i}`, { type: 'number', initial: 0, min: 0, max: 9 }])),
      frames: { home: { layers: row(n, (i) => ({ lines: [`click → set v${i} to v${i} + 1`] })) } },
    }),
    whole: 6,
    small: 2,
    model: (variables) => ({ variables, most: 9, step: 'up' }),
  },
  'frames with a way back': {
    make: (n) => ({
      frames: Object.fromEntries(
        Array.from({ length: n }, (_, i) => [
          `f${i}`,
          {
            layers: {
              [`on${i}`]: { at: [0, 0, 90, 44], lines: [`click → go to f${(i + 1) % n}`] },
              [`far${i}`]: { at: [0, 50, 90, 44], lines: [`click → go to f${(i * 7 + 3) % n}`] },
              [`back${i}`]: { at: [0, 100, 90, 44], lines: ['click → back'] },
            },
          },
        ])
      ),
    }),
    whole: 300,
    small: 4,
  },
  'a way back, and switches': {
    make: (n) => ({
      variables: switches(n),
      frames: Object.fromEntries(
        ['a', 'b', 'c', 'd'].map((name, i) => [
          name,
          {
            layers: {
              ...row(n, turning),
              [`on${i}`]: { at: [0, 200, 90, 44], lines: [`click → go to ${'bcda'[i]}`] },
              [`back${i}`]: { at: [0, 250, 90, 44], lines: ['click → back'] },
            },
          },
        ])
      ),
    }),
    least: 500_000,
    whole: 8,
    small: 1,
  },
  'timers, steps that wait, and switches': {
    make: (n) => ({
      variables: switches(n),
      frames: Object.fromEntries(
        ['a', 'b'].map((name, i) => [
          name,
          {
            layers: { ...row(n, turning), [`on${i}`]: { at: [0, 200, 90, 44], lines: [`click → wait 1 s; go to ${'ba'[i]}`] } },
            lines: [`after 2 s → go to ${'ba'[i]}`],
          },
        ])
      ),
    }),
    least: 500_000,
    whole: 15,
    small: 2,
  },
  'timers and steps that wait': {
    make: (n) => ({
      frames: { home: { layers: row(n, (i) => ({ lines: [`click → wait ${300 + i * 100} ms; hide this`] })), lines: ['after 2 s → send off'] } },
    }),
    least: 500_000,
    whole: 4,
    small: 2,
  },
};

/** So many states are explored at most. */
export const MOST = 1_000_000;
