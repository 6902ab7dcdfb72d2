import { Validator } from '@seriousme/openapi-schema-validator';
import { expect, test } from 'vitest';
import { openApi, operations } from './api-docs';
import { routeRights } from './route-rights';

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
