import type Joi from 'joi';
import parse from 'joi-to-json';
import { BatchSchema, exportKinds, FORMAT } from '@zany/core';
import { rights, type Deed } from '$lib/shared/rights';
import { routeRights } from './route-rights';
import { MOST_BATCHES } from './work/sent';

/** The HTTP interface as an OpenAPI 3.1 document, made of the routes, of who may ask them, and of what they check bodies by. */

interface Operation {
  readonly summary: string;
  /** What is asked for behind `?`: each with its meaning, and the values that it takes. */
  readonly query?: Readonly<Record<string, { readonly means: string; readonly values?: readonly string[]; readonly isOptional?: true }>>;
  /** What is sent, where no schema of the route says it. */
  readonly sends?: { readonly type: string; readonly means: string; readonly schema?: object };
  /** What is answered, where that is no JSON, or worth a word. */
  readonly gives?: { readonly type?: string; readonly means: string };
}

/** By method and route. A route without an entry, and an entry without a route, fail a test. */
export const operations: Readonly<Record<string, Operation>> = {
  'GET /api/errands': { summary: 'List what is being brought in for you, and what was lately' },
  'POST /api/errands': {
    summary: 'Have a large package brought in',
    sends: { type: 'application/zip', means: 'A package, or a bare `piece.json`; its name stands in the header `x-file-name`' },
    gives: { means: 'How it stands; once it is done, `made` is the id of the new piece' },
  },
  'GET /api/errands/[errand]': { summary: 'See how far it has come' },
  'DELETE /api/errands/[errand]': { summary: 'Stop it, or forget that it was; what was brought in stays' },
  'GET /api/follow': {
    summary: 'Hear of changes as they are made',
    query: { from: { means: 'Pieces, each with the revision one knows: `abc:12,def:3`' } },
    gives: { type: 'text/event-stream', means: 'Events, for as long as the connection lasts' },
  },
  'GET /api/openapi.json': { summary: 'This document', gives: { means: 'OpenAPI 3.1' } },
  'POST /api/packages': {
    summary: 'Bring a piece in',
    sends: { type: 'application/zip', means: 'A package, or a bare `piece.json`' },
    gives: { means: 'The id of the new piece' },
  },
  'GET /api/pieces': { summary: 'List one’s pieces' },
  'POST /api/pieces': { summary: 'Make an empty piece' },
  'GET /api/pieces/[id]': { summary: 'Read a piece', gives: { means: 'The document, its revision, and one’s role' } },
  'PATCH /api/pieces/[id]': { summary: 'Rename a piece' },
  'DELETE /api/pieces/[id]': { summary: 'Delete a piece, which can be taken back' },
  'POST /api/pieces/[id]/assets': {
    summary: 'Bring a picture, a film or a sound in',
    sends: { type: 'application/octet-stream', means: 'The file; its name stands in the header `x-file-name`' },
  },
  'GET /api/pieces/[id]/assets/[sha]': {
    summary: 'Read a picture, a film or a sound',
    gives: { type: 'application/octet-stream', means: 'The file' },
  },
  'POST /api/pieces/[id]/batches': {
    summary: 'Change a piece',
    sends: {
      type: 'application/json',
      means:
        'Edits, each applied as a whole or not at all; sending one twice does no harm. What `put` puts, and what `set` leaves, has to be as `docs/piece.schema.json` says',
      schema: {
        type: 'object',
        required: ['batches'],
        properties: {
          format: { const: FORMAT, description: 'The format that the edits are in' },
          batches: { type: 'array', minItems: 1, maxItems: MOST_BATCHES, items: BatchSchema },
        },
        additionalProperties: false,
      },
    },
    gives: { means: 'For each batch its revision, or what is wrong with it' },
  },
  'GET /api/pieces/[id]/comments': { summary: 'Read comments' },
  'POST /api/pieces/[id]/comments': { summary: 'Comment, or answer a comment' },
  'PATCH /api/pieces/[id]/comments/[comment]': { summary: 'Change a comment, resolve or reopen it' },
  'DELETE /api/pieces/[id]/comments/[comment]': { summary: 'Delete a comment' },
  'POST /api/pieces/[id]/comments/pictures': {
    summary: 'Send a picture for a comment',
    sends: { type: 'application/octet-stream', means: 'The picture' },
  },
  'GET /api/pieces/[id]/comments/pictures/[picture]': {
    summary: 'Read a picture of a comment',
    gives: { type: 'application/octet-stream', means: 'The picture' },
  },
  'POST /api/pieces/[id]/comments/seen': { summary: 'Note comments as read' },
  'GET /api/pieces/[id]/door-book': { summary: 'Read who was let in and out' },
  'POST /api/pieces/[id]/duplicate': { summary: 'Copy a piece' },
  'GET /api/pieces/[id]/errands': { summary: 'List what is made for you of a piece, and what was lately' },
  'POST /api/pieces/[id]/errands': {
    summary: 'Have something made that takes long',
    gives: { means: 'How it stands; what is made already, or being made, is that' },
  },
  'GET /api/pieces/[id]/errands/[errand]': { summary: 'See how far it has come' },
  'DELETE /api/pieces/[id]/errands/[errand]': { summary: 'Stop it, or forget what came of it' },
  'GET /api/pieces/[id]/errands/[errand]/file': {
    summary: 'Fetch what came of it',
    gives: { type: 'application/octet-stream', means: 'The file' },
  },
  'GET /api/pieces/[id]/export': {
    summary: 'Export a piece',
    query: { to: { means: 'The form', values: Object.keys(exportKinds) } },
    gives: { type: 'application/octet-stream', means: 'The file' },
  },
  'GET /api/pieces/[id]/hooks': { summary: 'List the addresses that are told what happens' },
  'POST /api/pieces/[id]/hooks': {
    summary: 'Have an address told what happens',
    gives: { means: 'Its id, and the secret that what is told is signed with' },
  },
  'POST /api/pieces/[id]/hooks/[hook]': { summary: 'Tell an address something now, to try it', gives: { means: 'What came of it' } },
  'DELETE /api/pieces/[id]/hooks/[hook]': { summary: 'Tell an address no more' },
  'GET /api/pieces/[id]/invitations': { summary: 'List invitations' },
  'POST /api/pieces/[id]/invitations': { summary: 'Invite somebody' },
  'DELETE /api/pieces/[id]/invitations/[invitation]': { summary: 'Take an invitation back' },
  'POST /api/pieces/[id]/leave': { summary: 'Leave a piece' },
  'GET /api/pieces/[id]/links': { summary: 'List review links' },
  'POST /api/pieces/[id]/links': { summary: 'Make a review link' },
  'PATCH /api/pieces/[id]/links/[link]': { summary: 'Change a review link' },
  'DELETE /api/pieces/[id]/links/[link]': { summary: 'Withdraw a review link' },
  'DELETE /api/pieces/[id]/links/[link]/holders/[holder]': { summary: 'Delete what a reviewer walked' },
  'GET /api/pieces/[id]/links/[link]/results': { summary: 'Read what reviewers walked' },
  'GET /api/pieces/[id]/members': { summary: 'List members' },
  'PATCH /api/pieces/[id]/members/[person]': { summary: 'Change a role' },
  'DELETE /api/pieces/[id]/members/[person]': { summary: 'Take a member out' },
  'POST /api/pieces/[id]/owner': { summary: 'Hand over ownership' },
  'POST /api/pieces/[id]/pad': { summary: 'Press a button of the pad' },
  'GET /api/pieces/[id]/pad-keys': { summary: 'List keys of pads' },
  'POST /api/pieces/[id]/pad-keys': { summary: 'Make a key for a pad' },
  'DELETE /api/pieces/[id]/pad-keys/[key]': { summary: 'End a key of a pad' },
  'POST /api/pieces/[id]/presence': { summary: 'Say where one is in a piece' },
  'POST /api/pieces/[id]/restore': { summary: 'Take back that a piece was deleted' },
  'GET /api/pieces/[id]/versions': { summary: 'List versions' },
  'GET /api/pieces/[id]/versions/[revision]': { summary: 'Read a version' },
  'PUT /api/pieces/[id]/versions/[revision]': { summary: 'Name a version' },
  'DELETE /api/pieces/[id]/versions/[revision]': { summary: 'Take the name of a version away' },
  'GET /api/pieces/[id]/versions/[revision]/edits': {
    summary: 'Read the edits up to a version',
    query: { after: { means: 'The revision to begin after; 0 for all', isOptional: true } },
  },
  'GET /api/pieces/[id]/walked': { summary: 'Read what was walked' },
  'POST /api/pieces/[id]/walked': { summary: 'Note what was walked' },
  'DELETE /api/pieces/[id]/walked': { summary: 'Forget what one has walked' },
  'GET /api/starters': { summary: 'List starters' },
  'POST /api/starters/[id]': { summary: 'Make a piece of a starter' },
  'GET /api/starters/[id]/assets/[sha]': {
    summary: 'Read a picture of a starter',
    gives: { type: 'application/octet-stream', means: 'The picture' },
  },
};

const routes = import.meta.glob<{ readonly _body?: Joi.ObjectSchema }>('/src/routes/api/**/+server.ts');
const fileOf = (route: string) => `/src/routes${route}/+server.ts`;

const SENDING = new Set(['POST', 'PUT', 'PATCH']);

/** The whole document. */
export async function openApi(): Promise<Record<string, unknown>> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [route, deeds] of Object.entries(routeRights)) {
    if (!route.startsWith('/api/')) continue;
    const schema = (await routes[fileOf(route)]?.())?._body;
    const path: Record<string, unknown> = (paths[route.replace(/\[(\w+)\]/g, '{$1}')] = {});
    for (const [method, deed] of Object.entries(deeds)) path[method.toLowerCase()] = operationOf(route, method, deed, schema);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Zany Thread',
      version: '1',
      description:
        'What programs can do with pieces. Make a key on the page of your account and send it as `Authorization: Bearer KEY`. A refusal names what is wrong, where, and what to do.',
    },
    servers: [{ url: '/' }],
    security: [{ key: [] }],
    paths,
    components: {
      securitySchemes: { key: { type: 'http', scheme: 'bearer' } },
      responses: {
        Refused: { description: 'It was not done', content: { 'application/json': { schema: { $ref: '#/components/schemas/Refusal' } } } },
      },
      schemas: {
        Refusal: {
          type: 'object',
          required: ['error'],
          properties: {
            error: {
              type: 'object',
              required: ['code', 'path', 'sentence'],
              properties: {
                code: { type: 'string' },
                path: { type: 'array', items: { type: ['string', 'integer'] }, description: 'Where in what was sent' },
                sentence: { type: 'string' },
              },
            },
          },
        },
      },
    },
  };
}

function operationOf(route: string, method: string, deed: Deed | 'anybody', schema: Joi.ObjectSchema | undefined): Record<string, unknown> {
  const { summary, query = {}, sends, gives } = operations[`${method} ${route}`]!;
  const inPath = [...route.matchAll(/\[(\w+)\]/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } }));
  const inQuery = Object.entries(query).map(([name, { means, values, isOptional }]) => ({
    name,
    in: 'query',
    required: isOptional !== true,
    description: means,
    schema: { type: 'string', ...(values && { enum: values }) },
  }));
  const body =
    SENDING.has(method) &&
    (sends ? { [sends.type]: { schema: sends.schema ?? {} } } : schema && { 'application/json': { schema: parse(schema, 'open-api-3.1') } });
  return {
    summary,
    operationId: `${method.toLowerCase()}${route
      .replace(/^\/api/, '')
      .replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase())
      .replace(/\W/g, '')}`,
    ...(deed === 'anybody' ? { security: [] } : { description: `For whoever may: ${rights[deed].means.toLowerCase()}.` }),
    ...(inPath.length + inQuery.length > 0 && { parameters: [...inPath, ...inQuery] }),
    ...(body && { requestBody: { required: true, ...(sends && { description: sends.means }), content: body } }),
    responses: {
      200: {
        description: gives?.means ?? 'It was done',
        content: { [gives?.type ?? 'application/json']: { schema: gives?.type ? {} : { type: 'object' } } },
      },
      default: { $ref: '#/components/responses/Refused' },
    },
  };
}
