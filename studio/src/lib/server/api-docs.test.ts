import { Validator } from '@seriousme/openapi-schema-validator';
import { BatchSchema, FORMAT, schemaFault } from '@zany/core';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect, test } from 'vitest';
import { openApi, operations } from './api-docs';
import { routeRights } from './route-rights';
import { parseBatches } from './work/sent';

const isAsSchemaSays = (schema: typeof BatchSchema, value: unknown) => schemaFault(schema, value, []) === null;

test('every address for programs is described, and nothing else is', () => {
  const asked = Object.entries(routeRights).flatMap(([route, deeds]) =>
    route.startsWith('/api/') ? Object.keys(deeds).map((method) => `${method} ${route}`) : []
  );
  expect(Object.keys(operations).sort()).toEqual(asked.sort());
});

test('the description is OpenAPI 3.1, as somebody else’s validator reads it', async () => {
  const written = await openApi();
  const validator = new Validator();
  expect(await validator.validate(structuredClone(written))).toEqual({ valid: true });
  expect(validator.version).toBe('3.1');
  await expect(`${JSON.stringify(written, null, 2)}\n`).toMatchFileSnapshot('../../../../docs/openapi.json');
});

test('edits are described by what the core checks them by: what fits is taken, and what is refused does not fit', async () => {
  const paths = (await openApi())['paths'] as Record<string, Record<string, { requestBody?: { content: Record<string, { schema: object }> } }>>;
  const fits = new Ajv2020().compile(paths['/api/pieces/{id}/batches']!['post']!.requestBody!.content['application/json']!.schema);
  const taken = (body: unknown) => {
    try {
      return parseBatches(new TextEncoder().encode(JSON.stringify(body))).every(({ operations, ...batch }) =>
        isAsSchemaSays(BatchSchema, { ...batch, operations: JSON.parse(operations) as unknown })
      );
    } catch {
      return false;
    }
  };
  const set = { op: 'set', table: 'scenes', id: 'a', path: ['name'], value: 'Quay' };
  const one = { id: 'b1', name: 'Rename', operations: [set] };
  const bodies: [unknown, boolean][] = [
    [{ batches: [one] }, true],
    [
      {
        format: FORMAT,
        batches: [
          one,
          {
            ...one,
            id: 'b2',
            operations: [
              { op: 'remove', table: 'layers', id: 'x' },
              { op: 'put', table: 'threads', value: { id: 't' } },
            ],
          },
        ],
      },
      true,
    ],
    [{ batches: [] }, false],
    [{ batches: [{ ...one, operations: [] }] }, false],
    [{ batches: [{ ...one, operations: [{ ...set, table: 'people' }] }] }, false],
    [{ batches: [{ ...one, operations: [{ ...set, path: [] }] }] }, false],
    [{ batches: [{ ...one, operations: [{ ...set, op: 'move' }] }] }, false],
    [{ batches: [{ name: 'Rename', operations: [set] }] }, false],
    [{ format: 'other', batches: [one] }, false],
    [{ batches: [one], more: 1 }, false],
  ];
  for (const [body, isRight] of bodies) expect([body, fits(body), taken(body)]).toEqual([body, isRight, isRight]);
});

test('a body is described by what the server checks it by', async () => {
  const paths = (await openApi())['paths'] as Record<string, Record<string, { requestBody?: { content: Record<string, { schema: unknown }> } }>>;
  const schema = paths['/api/pieces']!['post']!.requestBody!.content['application/json']!.schema;
  expect(schema).toMatchObject({
    type: 'object',
    required: ['name', 'width', 'height'],
    properties: { name: { type: 'string', minLength: 1, maxLength: 120 }, width: { type: 'integer', minimum: 1, maximum: 20_000 } },
  });
  const sending = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).flatMap(([method, one]) => (['post', 'put', 'patch'].includes(method) && !one.requestBody ? `${method} ${path}` : []))
  );
  // What is sent to these is nothing at all.
  expect(sending).toEqual([
    'post /api/pieces/{id}/duplicate',
    'post /api/pieces/{id}/hooks/{hook}',
    'post /api/pieces/{id}/leave',
    'post /api/pieces/{id}/restore',
    'post /api/starters/{id}',
  ]);
});
