import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import {
  BINDABLE,
  audit,
  compile,
  cueKinds,
  explore,
  pieceToJson,
  printLine,
  parseLine,
  readPackage,
  replay,
  scopeFor,
  start,
  stepKinds,
  transitionKinds,
  unwrap,
  walkKept,
  type Piece,
} from '@zany/core';
import { expect, test } from 'vitest';

const folder = new URL('../pieces/', import.meta.url);
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const files = readdirSync(folder).filter((file) => file.endsWith('.zip'));
const pieces: Piece[] = await Promise.all(files.map(async (file) => unwrap(await readPackage(readFileSync(new URL(file, folder)), sha256)).piece));

test('the demo pieces use every cue, step, transition and binding there is', () => {
  const threads = pieces.flatMap((piece) => [...piece.threads.values()]);
  const steps = threads.flatMap((thread) => thread.branches.flatMap((branch) => branch.steps));
  const layers = pieces.flatMap((piece) => [...piece.layers.values()]);
  expect([...new Set(threads.map((thread) => thread.cue.type))].sort()).toEqual(Object.keys(cueKinds).sort());
  expect([...new Set(steps.map((step) => step.do))].sort()).toEqual(Object.keys(stepKinds).sort());
  const transitions = new Set(steps.flatMap((step) => ('transition' in step ? [step.transition.type] : [])));
  expect([...transitions].sort()).toEqual(Object.keys(transitionKinds).sort());
  const bound = new Set(layers.flatMap((layer) => Object.keys(layer.bindings ?? {})));
  expect([...bound].sort()).toEqual([...BINDABLE].sort());
  expect(layers.some((layer) => layer.text?.includes('{'))).toBe(true);
});

test('the walks that are kept with a demo piece lead where they led, and there are some', () => {
  const walks = pieces.flatMap((piece) => Object.values(piece.head.walks ?? {}).map((walk) => walkKept(compile(piece), walk)));
  expect(walks).toEqual([
    { held: 5, broken: null },
    { held: 3, broken: null },
  ]);
});

test('what is there to learn by begins with what the tour mends, and with nothing else', async () => {
  const bytes = readFileSync(new URL('../lessons/first-crossing.zip', import.meta.url));
  const { piece } = unwrap(await readPackage(bytes, sha256));
  const { findings, exploration } = audit(compile(piece));
  expect(exploration.cut).toBeNull();
  expect(findings.map(({ title }) => title).sort()).toEqual(['Ticket is a dead end', 'Times is never reached']);
});

test.each(pieces.map((piece) => [piece.head.name, piece] as const))(
  '%s runs from its start, and every thread of it can be written and read',
  (_name, piece) => {
    const program = compile(piece);
    const { run } = replay(program, start(program)!, [
      { type: 'wait', ms: 3000 },
      { type: 'press', x: 150, y: 200 },
      { type: 'release', x: 150, y: 200 },
      { type: 'wait', ms: 20_000 },
    ]);
    expect(program.scenes.has(run.frame)).toBe(true);
    for (const thread of piece.threads.values()) {
      const scope = scopeFor(piece, thread);
      const line = printLine(thread, scope);
      const parsed = parseLine(line, scope);
      expect(parsed.ok && parsed.value, line).toEqual({ cue: thread.cue, branches: thread.branches });
    }
    expect(JSON.stringify(pieceToJson(piece))).not.toContain('undefined');
  }
);

test('the day trip is cut into the same slices, whenever it is', () => {
  const program = compile(pieces.find(({ head }) => head.name === 'Day trip')!);
  const [early, late] = [200, 1500].map((slicedFrom) => explore(program, { slicedFrom }));
  expect([early!.cut, late!.cut]).toEqual([null, null]);
  expect(early!.slices.map(({ states }) => states.length).sort()).toEqual(late!.slices.map(({ states }) => states.length).sort());
}, 120_000);

test.each(pieces.map((piece) => [piece.head.name, piece] as const))(
  '%s is explored to its end, in no more states than it has to be',
  (_name, piece) => {
    const { cut, count } = explore(compile(piece));
    expect(cut).toBeNull();
    // What depends on nothing else is explored by itself: in the whole the largest has millions.
    expect(count).toBeLessThan(10_000);
  },
  120_000
);
