import type { RequestEvent } from '@sveltejs/kit';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { anybodyMay, linkLets, padMay, roleMay, type Deed, type LinkMay } from '$lib/shared/rights';
import type { Person, Role } from '$lib/shared/types';
import { newId } from './ids';
import { isPerson, type Principal } from './principal';
import { routeRights } from './route-rights';
import { addComment } from './services/comments';
import { makeHook } from './services/hooks';
import { invite, invitationsTo } from './services/invitations';
import { comeIn, holderOf } from './services/link-door';
import { linksOf, makeLink } from './services/links';
import { makePadKey, padKeysOf } from './services/pad-keys';
import { setDeleted } from './services/pieces';
import { aboutFrame, batch, closeWorld, layer, makeMember, newPerson, newPiece, openWorld, packageOf, wish } from './testing/world';

type Handler = (event: RequestEvent) => Promise<Response> | Response;
type Module = Record<string, unknown>;

const found = import.meta.glob<Module>('/src/routes/**/+{server,page.server,layout.server}.ts', { eager: true });
const placeOf = (file: string) => file.replace(/^\/src\/routes/, '').replace(/\/\+[a-z.]+\.ts$/, '') || '/';

/** What a route answers to, from its own file. */
const answersTo = (module: Module): string[] =>
  Object.entries(module).flatMap(([name, value]) => {
    if (name === 'actions') return Object.keys(value as object).map((action) => `form ${action}`);
    return name.startsWith('_') ? [] : [name];
  });

beforeAll(openWorld);
afterAll(closeWorld);

test('every route and all it answers to stands in the table, and the table names nothing else', () => {
  const all: Record<string, string[]> = {};
  for (const [file, module] of Object.entries(found)) (all[placeOf(file)] ??= []).push(...answersTo(module));
  const listed = Object.fromEntries(Object.entries(routeRights).map(([place, deeds]) => [place, Object.keys(deeds).sort()]));
  expect(listed).toEqual(Object.fromEntries(Object.entries(all).map(([place, names]) => [place, names.sort()])));
});

// ── who asks ──────────────────────────────────────────────────────────────────

interface World {
  readonly id: string;
  readonly frame: string;
  readonly owner: Person;
  /** A second owner, so that anybody can leave. */
  readonly other: Person;
  readonly member: Person;
}

/** A piece of its own for each request: what one does must not help or harm the next. */
async function newWorld(): Promise<World> {
  const [owner, other, member] = [await newPerson('Ina Rask'), await newPerson('Liv Moe'), await newPerson('Odd Vik')];
  const { id, frame } = await newPiece(owner);
  await makeMember(id, other, 'owner');
  await makeMember(id, member, 'reviewer');
  return { id, frame, owner, other, member };
}

const asRole =
  (role: Role) =>
  async ({ id }: World): Promise<Principal> => {
    const person = await newPerson(role);
    await makeMember(id, person, role);
    return person;
  };
const asHolder =
  (may: LinkMay) =>
  async ({ id, owner }: World): Promise<Principal> => {
    const { token } = await makeLink(owner, id, wish({ may }), null);
    return holderOf(token, await comeIn(token, 'Guest', '', newId()));
  };

const principals: Record<string, { make: (world: World) => Promise<Principal>; may: (deed: Deed) => boolean }> = {
  nobody: { make: async () => null, may: () => false },
  stranger: { make: () => newPerson('Stranger'), may: (deed) => anybodyMay(deed) },
  reviewer: { make: asRole('reviewer'), may: (deed) => anybodyMay(deed) || roleMay('reviewer', deed) },
  editor: { make: asRole('editor'), may: (deed) => anybodyMay(deed) || roleMay('editor', deed) },
  owner: { make: asRole('owner'), may: (deed) => anybodyMay(deed) || roleMay('owner', deed) },
  'holder who looks': { make: asHolder('look'), may: (deed) => linkLets('look', deed) },
  'holder who walks': { make: asHolder('walk'), may: (deed) => linkLets('walk', deed) },
  'holder who comments': { make: asHolder('comment'), may: (deed) => linkLets('comment', deed) },
  'holder of another link': {
    make: async () => asHolder('comment')(await newWorld()),
    // What is asked of a link is about its own piece, whichever that is.
    may: (deed) => linkLets('comment', deed),
  },
  pad: { make: async ({ id }) => ({ kind: 'pad', piece: id }), may: padMay },
  'pad of another piece': { make: async () => ({ kind: 'pad', piece: newId() }), may: () => false },
};

// ── what is asked ─────────────────────────────────────────────────────────────

interface Asked {
  readonly params?: Record<string, string>;
  readonly body?: unknown;
  readonly search?: string;
  readonly headers?: Record<string, string>;
}

const PNG = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
const walked = [{ thread: 'one', branch: 0, line: 'click → Pay', verdict: null, note: '' }];
const where = (selection: string[] = []) => ({ client: 'window', desk: 'build', scene: null, selection, gone: false });

const newLink = async ({ id, owner }: World): Promise<string> => {
  await makeLink(owner, id, wish(), null);
  return (await linksOf(owner, id))[0]!.id;
};

/** An address within this machine, which is told nothing. */
const newHook = async ({ id, owner }: World): Promise<Asked> => ({
  params: { hook: (await makeHook(owner, id, { address: 'http://127.0.0.1:9/', events: ['saved'] })).id },
});

/** One good request for each method of a route; where it is not said, the bare one. */
const requests: Record<string, (world: World) => Promise<Asked> | Asked> = {
  'GET /api/follow': ({ id }) => ({ search: `?from=${id}:0` }),
  'POST /api/errands': () => ({ body: packageOf({}), headers: { 'x-file-name': 'a.zip' } }),
  'GET /api/errands/[errand]': () => ({ params: { errand: 'none' } }),
  'DELETE /api/errands/[errand]': () => ({ params: { errand: 'none' } }),
  'POST /api/packages': () => ({ body: packageOf({}) }),
  'POST /api/pieces': () => ({ body: { name: 'New', width: 100, height: 100 } }),
  'PATCH /api/pieces/[id]': () => ({ body: { name: 'Renamed' } }),
  'POST /api/pieces/[id]/assets': () => ({ body: PNG, headers: { 'x-file-name': 'a.png' } }),
  'GET /api/pieces/[id]/assets/[sha]': () => ({ params: { sha: 'none' } }),
  'POST /api/pieces/[id]/batches': ({ frame }) => {
    const { id, name, operations } = batch([layer('one', frame)]);
    return { body: { batches: [{ id, name, operations: JSON.parse(operations) as unknown }] } };
  },
  'POST /api/pieces/[id]/errands': () => ({ body: { kind: 'export', to: 'package' } }),
  'GET /api/pieces/[id]/errands/[errand]': () => ({ params: { errand: 'none' } }),
  'DELETE /api/pieces/[id]/errands/[errand]': () => ({ params: { errand: 'none' } }),
  'GET /api/pieces/[id]/errands/[errand]/file': () => ({ params: { errand: 'none' } }),
  'GET /api/pieces/[id]/export': () => ({ search: '?to=package' }),
  'POST /api/pieces/[id]/hooks': () => ({ body: { address: 'https://build.kittiwake.example/told', events: ['saved'] } }),
  'POST /api/pieces/[id]/hooks/[hook]': newHook,
  'DELETE /api/pieces/[id]/hooks/[hook]': newHook,
  'POST /api/pieces/[id]/comments': ({ frame }) => ({ body: { root: null, place: aboutFrame(frame), body: 'Hm' } }),
  'PATCH /api/pieces/[id]/comments/[comment]': async ({ id, owner, frame }) => ({
    params: { comment: (await addComment(owner, id, { root: null, place: aboutFrame(frame), body: 'Hm' }, 'https://studio.example')).id },
    body: { resolved: true },
  }),
  'DELETE /api/pieces/[id]/comments/[comment]': () => ({ params: { comment: 'none' } }),
  'POST /api/pieces/[id]/comments/pictures': () => ({ body: PNG }),
  'GET /api/pieces/[id]/comments/pictures/[picture]': () => ({ params: { picture: 'none' } }),
  'POST /r/[token]/comments/pictures': () => ({ body: PNG }),
  'GET /r/[token]/comments/pictures/[picture]': () => ({ params: { picture: 'none' } }),
  'POST /api/pieces/[id]/comments/seen': () => ({ body: { roots: [] } }),
  'POST /r/[token]/comments': ({ frame }) => ({ body: { root: null, place: aboutFrame(frame), body: 'Hm' } }),
  'POST /api/pieces/[id]/invitations': () => ({ body: { role: 'editor', email: '' } }),
  'DELETE /api/pieces/[id]/invitations/[invitation]': async ({ id, owner }) => {
    await invite(owner, id, 'editor', '', 'http://localhost');
    return { params: { invitation: (await invitationsTo(owner, id))[0]!.id } };
  },
  'PATCH /api/pieces/[id]/members/[person]': ({ member }) => ({ params: { person: member.id }, body: { role: 'editor' } }),
  'DELETE /api/pieces/[id]/members/[person]': ({ member }) => ({ params: { person: member.id } }),
  'POST /api/pieces/[id]/links': () => ({ body: { ...wish(), password: null } }),
  'PATCH /api/pieces/[id]/links/[link]': async (world) => ({ params: { link: await newLink(world) }, body: { hints: false } }),
  'DELETE /api/pieces/[id]/links/[link]': async (world) => ({ params: { link: await newLink(world) } }),
  'GET /api/pieces/[id]/links/[link]/results': async (world) => ({ params: { link: await newLink(world) } }),
  'DELETE /api/pieces/[id]/links/[link]/holders/[holder]': async (world) => ({ params: { link: await newLink(world), holder: 'none' } }),
  'GET /r/[token]/assets/[sha]': () => ({ params: { sha: 'none' } }),
  'POST /r/[token]/trails': ({ frame }) => ({
    body: { id: 'one', task: null, revision: 0, trail: { from: frame, events: [] }, givenUp: false, isFull: false },
  }),
  'POST /api/pieces/[id]/owner': ({ member }) => ({ body: { person: member.id } }),
  'POST /api/pieces/[id]/pad': () => ({ body: { button: 1 } }),
  'POST /api/pieces/[id]/pad-keys': () => ({ body: { name: 'Box' } }),
  'DELETE /api/pieces/[id]/pad-keys/[key]': async ({ id, owner }) => {
    await makePadKey(owner, id, 'Box');
    return { params: { key: (await padKeysOf(owner, id))[0]!.id } };
  },
  'POST /api/pieces/[id]/presence': () => ({ body: where() }),
  'POST /api/pieces/[id]/restore': async ({ id, owner }) => {
    await setDeleted(owner, id, true);
    return {};
  },
  'GET /api/pieces/[id]/versions/[revision]': () => ({ params: { revision: '0' } }),
  'PUT /api/pieces/[id]/versions/[revision]': () => ({ params: { revision: '0' }, body: { name: 'First round' } }),
  'DELETE /api/pieces/[id]/versions/[revision]': () => ({ params: { revision: '0' } }),
  'GET /api/pieces/[id]/versions/[revision]/edits': () => ({ params: { revision: '0' } }),
  'POST /api/pieces/[id]/walked': () => ({ body: { walked } }),
};

function eventOf(world: World, who: Principal, method: string, { params = {}, body, search = '', headers = {} }: Asked): RequestEvent {
  const url = new URL(`http://localhost/somewhere${search}`);
  const raw = body instanceof Uint8Array ? body : body === undefined ? undefined : JSON.stringify(body);
  const init: RequestInit = { method, headers: { origin: url.origin, ...headers }, ...(raw !== undefined && { body: raw as BodyInit }) };
  return {
    url,
    params: { id: world.id, ...params },
    request: new Request(url, init),
    locals: { who, person: isPerson(who) ? who : null },
    cookies: { get: () => undefined, set: () => undefined, delete: () => undefined },
    getClientAddress: () => newId(),
  } as unknown as RequestEvent;
}

/** What a refusal of rights looks like; a route that lets somebody in may still say that what he asks for is not there or not good. */
const REFUSED = [401, 403, 404];
const UNKNOWN = 'There is no such piece, or it is not shared with you.';

async function isLetIn(response: Response): Promise<boolean> {
  if (!REFUSED.includes(response.status)) {
    await response.body?.cancel();
    return true;
  }
  if (response.status !== 404) return false;
  const { error } = (await response.json()) as { error: { sentence: string } };
  return error.sentence !== UNKNOWN;
}

const routes = Object.entries(found).flatMap(([file, module]) =>
  Object.entries(module)
    .filter(([name]) => /^[A-Z]+$/.test(name))
    .map(([method, handler]) => ({ place: placeOf(file), method, handler: handler as Handler }))
);

test.each(routes.filter(({ place, method }) => routeRights[place]?.[method] !== 'anybody'))(
  '$method $place lets in whom the table lets in, and nobody else',
  async ({ place, method, handler }) => {
    const deed = routeRights[place]![method] as Deed;
    const [let_in, wanted]: [string[], string[]] = [[], []];
    for (const [name, { make, may }] of Object.entries(principals)) {
      const world = await newWorld();
      const who = await make(world);
      const asked = (await requests[`${method} ${place}`]?.(world)) ?? {};
      if (await isLetIn(await handler(eventOf(world, who, method, asked)))) let_in.push(name);
      if (may(deed)) wanted.push(name);
    }
    expect(let_in).toEqual(wanted);
  },
  120_000
);
