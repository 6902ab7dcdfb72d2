import fc from 'fast-check';
import { expect, test } from 'vitest';
import { schemaFault } from '../piece/read.ts';
import { tableSchemas } from '../piece/schema.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { generator } from '../testing/large.ts';
import { fieldFault } from './field-fault.ts';
import { putPath } from './path.ts';

/** All ways into a value, as paths. */
function pathsIn(value: unknown, way: readonly string[] = []): string[][] {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return [[...way]];
  return [[...way], ...Object.entries(value).flatMap(([key, inner]) => pathsIn(inner, [...way, key]))];
}

const WRONG = [undefined, null, 0, -1, 1e9, '', 'x', 'Skarra', '#12', true, [], {}, { x: 1 }, { time: 3, value: 2 }, { hidden: true }, ['a']];
const KEYS = ['x', 'pose', 'hidden', 'nothing', 'k5', 'timeline', 'states', 'scroll', 'looks', 'hover', 'style', 'fill', 'not an id', '__proto__'];

test('a field is right where it is set exactly when the whole is right, wherever and whatever it is', () => {
  let right = 0;
  let wrong = 0;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
      const random = generator(seed);
      const piece = richPiece(seed);
      const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
      for (const table of ['scenes', 'layers', 'threads', 'variables'] as const)
        for (const entity of [...piece[table].values()].slice(0, 4)) {
          const paths = pathsIn(entity);
          for (let i = 0; i < 25; i++) {
            const path = [...pick(paths), ...(random() < 0.4 ? [pick(KEYS)] : []), ...(random() < 0.1 ? [pick(KEYS)] : [])];
            if (path.length === 0) continue;
            const changed = putPath(entity, path, pick(WRONG));
            if (!changed.ok) continue;
            const whole = schemaFault(tableSchemas[table], changed.value, [table, entity.id]);
            const field = fieldFault(tableSchemas[table], entity, changed.value, path, [table, entity.id]);
            expect([table, path, field === null], JSON.stringify(whole)).toEqual([table, path, whole === null]);
            if (whole) wrong++;
            else right++;
          }
        }
    }),
    { numRuns: timesOver(20) }
  );
  expect(Math.min(right, wrong)).toBeGreaterThan(200);
});
