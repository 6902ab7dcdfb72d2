import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { generator } from '../testing/large.ts';
import { richPiece } from '../testing/rich.ts';
import { eventsIn } from '../walk/events-in.ts';
import { tellingOf } from '../walk/telling.ts';
import { resolveScreen, standingScreen } from './resolve.ts';
import { advance, begin } from './run.ts';
import type { RunEvent, RunState } from './state.ts';

/**
 * What the engine does with random pieces and random people: the same today as when it was last looked at. A line for each piece:
 * what came of each event, boiled down. Where a line changes and should, `vitest -u` writes it anew.
 */

const [PIECES, EVENTS] = [160, 30];

/** FNV-1a (Fowler, Noll, Vo) of a text, in four signs. */
function boiled(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0).toString(36).padStart(7, '0').slice(-4);
}

const sorted = (_key: string, value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value === Infinity
      ? 'never'
      : value;

/** Something that is to be had here, or a finger put down and moved anywhere, time that passes, and now and then nonsense. */
function someEvent(program: Program, run: RunState, random: () => number): RunEvent {
  const screen = standingScreen(program, run);
  const point = { x: Math.floor(random() * screen.width), y: Math.floor(random() * screen.height) };
  const kind = random();
  if (kind < 0.12) return { type: 'press', ...point };
  if (kind < 0.24) return { type: 'release', ...point };
  if (kind < 0.34) return { type: 'move', ...point };
  if (kind < 0.44) return { type: 'wait', ms: Math.floor(random() * 900) };
  if (kind < 0.47) return { type: 'scroll', layer: null, x: 0, y: Math.floor(random() * 400) };
  if (kind < 0.5) return { type: 'click', layer: [...program.piece.layers.keys()][Math.floor(random() * program.piece.layers.size)] ?? 'none' };
  if (kind < 0.52) return { type: 'jump', frame: program.frames[Math.floor(random() * program.frames.length)]! };
  if (kind < 0.54) return { type: 'set', variable: [...program.variables.keys()][0] ?? 'none', value: Math.floor(random() * 5) };
  const all = [...eventsIn(program, run, screen, tellingOf(program))];
  return all[Math.floor(random() * all.length)] ?? { type: 'leave' };
}

const tracesOf = (seed: number): string => {
  const program = compile(richPiece(seed));
  const random = generator(seed + 1000);
  const begun = begin(program);
  if (!begun) return `${seed} no frame`;
  let { run } = begun;
  const marks = [boiled(JSON.stringify(begun, sorted))];
  for (let i = 0; i < EVENTS; i++) {
    const next = advance(program, run, someEvent(program, run, random));
    marks.push(boiled(JSON.stringify([next, seenIn(program, next.run)], sorted)));
    run = next.run;
  }
  return `${seed} ${marks.join(' ')}`;
};

const seenIn = (program: Program, run: RunState) =>
  resolveScreen(program, run).surfaces.map(({ scene, scroll, all }) => [
    scene,
    scroll,
    all.map(({ node, x, y, width, height, opacity, rotation, text, looks }) => [node.key, x, y, width, height, opacity, rotation, text, looks]),
  ]);

/** Few at a time, so that one that is another one is soon told. */
test.each(Array.from({ length: PIECES / 8 }, (_, i) => i * 8))('pieces from %i on do what they always did', (first) => {
  expect(Array.from({ length: 8 }, (_, i) => tracesOf(first + i))).toMatchSnapshot();
});
