import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { framesOf, indexOf, threadsOf, type Piece } from '../piece/piece.ts';
import { pieceToJson, readPiece } from '../piece/read.ts';
import { compile } from '../program/compile.ts';
import { update } from '../program/program.ts';
import { unwrap } from '../result.ts';
import { randomOperations, randomPiece } from '../testing/arbitrary.ts';
import { build, click, go } from '../testing/build.ts';
import { apply } from './apply.ts';
import { wireTo } from './commands/threads.ts';
import type { Batch, Operation } from './operation.ts';
import { rebase } from './rebase.ts';

const seeds = fc.integer({ min: 0, max: 1e9 });

const index = (piece: Piece) =>
  Object.fromEntries(
    Object.entries(indexOf(piece.layers, piece.threads)).map(([name]) => [
      name,
      [...piece.index[name as 'layersOf'].entries()].map(([key, set]) => [key, [...set].sort()]).sort(),
    ])
  );

const freshIndex = (piece: Piece) => index({ ...piece, index: indexOf(piece.layers, piece.threads) });

describe('applying edits', () => {
  test('then inverting is nothing; the result is a valid document; look-ups and programs keep in step', () => {
    fc.assert(
      fc.property(seeds, seeds, (a, b) => {
        const piece = randomPiece(a);
        const before = JSON.stringify(pieceToJson(piece));
        const applied = apply(piece, randomOperations(piece, b));
        expect(JSON.stringify(pieceToJson(piece))).toBe(before);
        if (!applied.ok) return;
        const { piece: after, inverse, touched } = applied.value;
        expect(readPiece(JSON.parse(JSON.stringify(pieceToJson(after)))).ok).toBe(true);
        expect(index(after)).toEqual(freshIndex(after));
        const updated = update(compile(piece), after, touched);
        const fresh = compile(after);
        expect(updated.frames).toEqual(fresh.frames);
        expect(updated.threads).toEqual(fresh.threads);
        for (const id of fresh.frames) expect(updated.scenes.get(id)!.items).toEqual(fresh.scenes.get(id)!.items);
        const undone = unwrap(apply(after, inverse));
        expect(JSON.stringify(pieceToJson(undone.piece))).toBe(before);
        expect(index(undone.piece)).toEqual(freshIndex(piece));
      }),
      { numRuns: 400 }
    );
  });

  test('is all or nothing', () => {
    const piece = build({ home: {} });
    const applied = apply(piece, [
      { op: 'set', table: 'scenes', id: 'home', path: ['name'], value: 'Harbour' },
      { op: 'set', table: 'scenes', id: 'gone', path: ['name'], value: 'Nowhere' },
    ]);
    expect(applied.ok).toBe(false);
    expect(framesOf(piece)[0]!.name).toBe('home');
  });

  test('removing a frame takes its layers and threads and leaves a visible missing target', () => {
    const piece = build({ home: { layers: { buy: { threads: [click(go('pay'))] } } }, pay: { layers: { done: { threads: [click(go('home'))] } } } });
    const { piece: after } = unwrap(apply(piece, [{ op: 'remove', table: 'scenes', id: 'pay' }]));
    expect([...after.layers.keys()]).toEqual(['buy']);
    expect(after.threads.size).toBe(1);
    expect(threadsOf(after, 'buy')[0]!.branches[0]!.steps[0]).toMatchObject({ target: { frame: 'pay' } });
  });

  test.each<[string, Operation]>([
    ['a prototype', { op: 'set', table: 'layers', id: 'buy', path: ['__proto__', 'x'], value: 1 }],
    ['the id', { op: 'set', table: 'layers', id: 'buy', path: ['id'], value: 'b' }],
    ['another frame', { op: 'set', table: 'layers', id: 'buy', path: ['scene'], value: 'pay' }],
    ['inside a number', { op: 'set', table: 'layers', id: 'buy', path: ['pose', 'x', 'y'], value: 1 }],
    ['a picture that is shown', { op: 'remove', table: 'assets', id: 'x' }],
    ['another piece', { op: 'set', table: 'piece', id: 'other', path: ['name'], value: 'x' }],
  ])('refuses to set %s', (_, operation) => {
    expect(apply(build({ home: { layers: { buy: {} } }, pay: {} }), [operation]).ok).toBe(false);
  });

  test('an untouched scene keeps its program', () => {
    const program = compile(build({ home: { layers: { buy: {} } }, pay: {} }));
    const { piece, touched } = unwrap(apply(program.piece, [{ op: 'set', table: 'layers', id: 'buy', path: ['pose', 'x'], value: 9 }]));
    const next = update(program, piece, touched);
    expect(next.scenes.get('pay')).toBe(program.scenes.get('pay'));
    expect(next.scenes.get('home')).not.toBe(program.scenes.get('home'));
    expect(next.frames).toBe(program.frames);
  });

  test('in a touched scene, layers with nothing changed in or on them keep their items', () => {
    const piece = unwrap(
      apply(build({ home: { layers: { buy: {}, note: {}, bar: { type: 'group' }, inner: {}, other: { type: 'group' }, calm: {} } } }), [
        { op: 'set', table: 'layers', id: 'inner', path: ['parent'], value: 'bar' },
        { op: 'set', table: 'layers', id: 'calm', path: ['parent'], value: 'other' },
      ])
    ).piece;
    const before = compile(piece);
    const kept = (operations: readonly Operation[]) => {
      const applied = unwrap(apply(piece, operations));
      const after = update(before, applied.piece, applied.touched).scenes.get('home')!;
      return [...before.scenes.get('home')!.byId].filter(([id, item]) => after.byId.get(id) === item).map(([id]) => id);
    };
    const moved = (id: string): Operation[] => [{ op: 'set', table: 'layers', id, path: ['pose', 'x'], value: 9 }];
    expect(kept(moved('buy'))).toEqual(['note', 'bar', 'inner', 'other', 'calm']);
    expect(kept(moved('inner'))).toEqual(['buy', 'note', 'other', 'calm']);
    const wired = wireTo(piece, ['calm'], 'home', () => 'wire');
    expect(kept(wired)).toEqual(['buy', 'note', 'bar', 'inner']);
  });
});

describe('rebasing', () => {
  test('people with different pending edits end with the same piece, in the order of the server', () => {
    fc.assert(
      fc.property(seeds, fc.array(fc.tuple(fc.nat({ max: 2 }), seeds), { minLength: 1, maxLength: 12 }), (seed, actions) => {
        const start = randomPiece(seed);
        const people = [0, 1, 2].map(() => ({ confirmed: start, seen: 0, pending: [] as Batch[], shown: start }));
        const log: Batch[] = [];
        let server = start;
        const catchUp = (person: (typeof people)[number]) => {
          for (; person.seen < log.length; person.seen++) {
            const batch = log[person.seen]!;
            person.confirmed = unwrap(apply(person.confirmed, batch.operations)).piece;
            person.pending = person.pending.filter((own) => own.id !== batch.id);
          }
          const rebased = rebase(person.confirmed, person.pending);
          person.shown = rebased.piece;
          person.pending = rebased.kept;
        };
        const deliver = (person: (typeof people)[number]) => {
          const sent = person.pending;
          for (const batch of sent) {
            const applied = apply(server, batch.operations);
            if (!applied.ok) person.pending = person.pending.filter((own) => own !== batch);
            else {
              server = applied.value.piece;
              log.push(batch);
            }
          }
          catchUp(person);
        };
        actions.forEach(([who, edit], n) => {
          const person = people[who]!;
          if (edit % 3 === 0) return deliver(person);
          const operations = randomOperations(person.shown, edit);
          const applied = apply(person.shown, operations);
          if (!applied.ok) return;
          person.shown = applied.value.piece;
          person.pending.push({ id: `b${n}`, name: 'Edit', operations });
        });
        people.forEach(deliver);
        people.forEach(catchUp);
        for (const person of people) expect(pieceToJson(person.shown)).toEqual(pieceToJson(server));
      }),
      { numRuns: 150 }
    );
  });

  test('drops what cannot hold any more and says why', () => {
    const piece = build({ home: { layers: { buy: {} } } });
    const { piece: without } = unwrap(apply(piece, [{ op: 'remove', table: 'layers', id: 'buy' }]));
    const batch: Batch = { id: 'b', name: 'Move', operations: [{ op: 'set', table: 'layers', id: 'buy', path: ['pose', 'x'], value: 4 }] };
    const { kept, dropped } = rebase(without, [batch]);
    expect(kept).toEqual([]);
    expect(dropped[0]!.fault.code).toBe('gone');
  });
});
