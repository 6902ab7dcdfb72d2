import fc from 'fast-check';
import { expect, test } from 'vitest';
import { audit } from '../walk/audit.ts';
import { compile } from '../program/compile.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { compose } from '../compose/compose.ts';
import { readPiece, pieceToJson } from './read.ts';
import { HeadSchema, tableSchemas } from './schema.ts';
import { TABLES, type Piece } from './piece.ts';
import { unwrap } from '../result.ts';
import { fieldsIn, fieldsOf, renamedIn } from './visit.ts';

const seeds = fc.integer({ min: 0, max: 1e9 });

/** All ids there are in a piece, of things and of what is in them. */
function idsIn(piece: Piece): string[] {
  const scenes = [...piece.scenes.values()];
  const inner = scenes.flatMap((scene) => [
    ...Object.keys(scene.states ?? {}),
    ...Object.keys(scene.timeline?.labels ?? {}),
    ...Object.keys(scene.choices ?? {}),
  ]);
  return [...piece.scenes.keys(), ...piece.layers.keys(), ...piece.threads.keys(), ...piece.variables.keys(), ...inner];
}

function renamedPiece(piece: Piece, names: ReadonlyMap<string, string>): Piece {
  const json = pieceToJson(piece);
  const tables = TABLES.map((table) => {
    const all = [...piece[table].values()].map((entity) => renamedIn(tableSchemas[table], entity as { id: string }, names));
    return [table, Object.fromEntries(all.map((entity) => [entity.id, entity]))] as const;
  });
  return unwrap(readPiece({ ...json, ...renamedIn(HeadSchema, piece.head, names), ...Object.fromEntries(tables) }));
}

test('a piece in which every id is another one is read, explored and judged as before: nothing that names a thing is left out', () => {
  fc.assert(
    fc.property(seeds, (seed) => {
      const piece = richPiece(seed);
      const names = new Map(idsIn(piece).map((id) => [id, `z${id}`.slice(0, 40)]));
      fc.pre(new Set(names.values()).size === names.size);
      const renamed = renamedPiece(piece, names);
      const [a, b] = [piece, renamed].map((one) => audit(compile(one), { maxStates: 60 }));
      const { states, moves, fired, cut } = a!.exploration;
      expect([b!.exploration.states.length, b!.exploration.moves, b!.exploration.cut]).toEqual([states.length, moves, cut]);
      expect([...b!.exploration.fired].sort()).toEqual([...fired].map((id) => names.get(id)).sort());
      expect(b!.findings.map(({ rule, sentence }) => [rule, sentence]).sort()).toEqual(
        a!.findings.map(({ rule, sentence }) => [rule, sentence]).sort()
      );
      const back = new Map([...names].map(([old, made]) => [made, old]));
      expect(pieceToJson(renamedPiece(renamed, back))).toEqual(pieceToJson(piece));
    }),
    { numRuns: timesOver(20) }
  );
});

test('says what a field names, and where it computes', () => {
  const piece = compose({
    variables: { seats: { type: 'number', initial: 0 } },
    parts: { Card: { states: { Front: {}, Back: { word: { text: '{‹seats›} left' } } }, layers: { word: { type: 'text', text: 'Bay' } } } },
    frames: {
      home: {
        layers: {
          card: { type: 'placement', part: 'Card', at: [0, 0, 90, 90], when: { shown: 'seats > 1' } },
          pay: { lines: ['click → if seats > 2 → put card in Back; otherwise → go to ?'] },
        },
      },
    },
  });
  const named = (table: 'scenes' | 'layers' | 'threads', id: string) =>
    fieldsOf(table, piece[table].get(id)!).map(({ refers, reads, value, path }) => [path.join('.'), refers ?? reads, value]);
  expect(named('scenes', 'Card')).toEqual([
    ['states.Card_s_Back.deltas.Card_word', 'layer', 'Card_word'],
    ['states.Card_s_Back.deltas.Card_word.text', 'text', '{‹seats›} left'],
  ]);
  expect(named('layers', 'home_card')).toEqual([
    ['part', 'part', 'Card'],
    ['bindings.shown', 'expression', '‹seats› > 1'],
  ]);
  expect(named('threads', 'home_pay-0')).toEqual([
    ['branches.0.if', 'expression', '‹seats› > 2'],
    ['branches.0.steps.0.of', 'subject', 'home_card'],
    ['branches.0.steps.0.to.state', 'state', 'Card_s_Back'],
    ['branches.1.steps.0.target.frame', 'frame', null],
  ]);
});

test('a shape is told by its fixed words, and what fits none is left alone', () => {
  const step = tableSchemas.threads.properties.branches;
  expect(fieldsIn(step, [{ steps: [{ do: 'nothing', layer: 'a' }] }])).toEqual([]);
  expect(renamedIn(step, [{ steps: [{ do: 'nothing', layer: 'a' }] }], new Map([['a', 'b']]))).toEqual([{ steps: [{ do: 'nothing', layer: 'a' }] }]);
});
