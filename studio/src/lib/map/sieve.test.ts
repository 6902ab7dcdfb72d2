import { compile } from '@zany/core';
import { compose } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { isOpen, NO_SIEVE, passes, type Sieve } from './sieve';

test('all that is asked of a frame has to fit', () => {
  const program = compile(compose({ frames: { Harbour: {}, Boats: {}, 'Boat hire': {} } }));
  const known = { loose: new Map([['Boats', 2]]), isUnwalked: (id: string) => id !== 'Harbour' };
  const found = (sieve: Partial<Sieve>) => program.frames.filter((id) => passes(program.scenes.get(id)!, { ...NO_SIEVE, ...sieve }, known));
  expect(isOpen(NO_SIEVE)).toBe(true);
  expect(found({})).toHaveLength(3);
  expect(found({ words: ' boat ' })).toEqual(['Boats', 'Boat-hire']);
  expect(found({ words: 'boat', loose: true })).toEqual(['Boats']);
  expect(found({ unwalked: true })).toEqual(['Boats', 'Boat-hire']);
  expect(found({ kind: 'menu' })).toEqual([]);
  expect(found({ around: new Set(['Harbour']) })).toEqual(['Harbour']);
  expect(found({ words: 'boat', changed: new Set(['Harbour', 'Boats']) })).toEqual(['Boats']);
  expect(isOpen({ ...NO_SIEVE, changed: new Set() })).toBe(false);
  expect(isOpen({ ...NO_SIEVE, words: ' ' })).toBe(true);
  expect(isOpen({ ...NO_SIEVE, around: new Set() })).toBe(false);
});
