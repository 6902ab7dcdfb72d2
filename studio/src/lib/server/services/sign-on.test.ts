import { createServer, type Server } from 'node:http';
import Provider from 'oidc-provider';
import { afterAll, afterEach, beforeAll, expect, test, vi } from 'vitest';
import { newId } from '../ids';
import { PersonRow } from '../models';
import { closeWorld, newPerson, openWorld } from '../testing/world';
import { beginSignOn, endSignOn, type SignOnKept } from './sign-on';

/** An issuer on loopback, whose accounts are what somebody types as his login: `odd@kittiwake.example`, with `!` where it is not confirmed. */
let server: Server;
let issuer: string;
const BACK = 'http://localhost:5999/sign-in/elsewhere/back';

beforeAll(async () => {
  await openWorld();
  server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  issuer = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const quiet = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
  const provider = new Provider(issuer, {
    clients: [{ client_id: 'studio', client_secret: 'pier', redirect_uris: [BACK], grant_types: ['authorization_code'], response_types: ['code'] }],
    claims: { email: ['email', 'email_verified'], profile: ['name'] },
    conformIdTokenClaims: false,
    cookies: { keys: ['gull'] },
    findAccount: (_context, sub) => ({
      accountId: sub,
      claims: () => ({ sub, email: sub.replace('!', ''), email_verified: !sub.includes('!'), name: 'Odd Vik' }),
    }),
  });
  server.on('request', provider.callback());
  quiet.mockRestore();
  vi.stubEnv('ZANY_OIDC_ISSUER', issuer);
  vi.stubEnv('ZANY_OIDC_CLIENT', 'studio');
  vi.stubEnv('ZANY_OIDC_SECRET', 'pier');
  vi.stubEnv('ZANY_OIDC_NAME', 'Kittiwake Line');
});
afterEach(() => vi.stubEnv('ZANY_OIDC_ISSUER', issuer));
afterAll(async () => {
  vi.unstubAllEnvs();
  await new Promise((resolve) => server.close(resolve));
  await closeWorld();
});

/** A browser that goes where it is sent, signs in under a login, agrees, and stops where it would come back. */
async function through(address: string, login: string): Promise<URL> {
  const jar = new Map<string, string>();
  let at = new URL(address);
  let body: URLSearchParams | null = null;
  for (let i = 0; i < 12; i++) {
    const response: Response = await fetch(at, {
      redirect: 'manual',
      method: body ? 'POST' : 'GET',
      body,
      headers: { cookie: [...jar].map(([name, value]) => `${name}=${value}`).join('; ') },
    });
    for (const cookie of response.headers.getSetCookie()) jar.set(...(/^([^=]+)=([^;]*)/.exec(cookie)!.slice(1, 3) as [string, string]));
    body = null;
    const to = response.headers.get('location');
    if (to) {
      at = new URL(to, at);
      if (at.href.startsWith(BACK)) return at;
      continue;
    }
    const page = await response.text();
    at = new URL(/action="([^"]+)"/.exec(page)![1]!, at);
    body = new URLSearchParams(page.includes('value="login"') ? { prompt: 'login', login, password: 'x' } : { prompt: 'consent' });
  }
  throw new Error('it goes round and round');
}

async function signOn(login: string) {
  const { address, kept } = await beginSignOn(BACK);
  return endSignOn(await through(address, login), kept);
}

test('somebody new gets an account, and is the same the next time', async () => {
  const email = `${newId()}@kittiwake.example`;
  const first = await signOn(email);
  expect(first).toMatchObject({ email, name: 'Odd Vik' });
  expect(await signOn(email)).toEqual(first);
});

test('who has an account here with the address that is confirmed there is that person; also after the address here is another', async () => {
  const liv = await newPerson('Liv Moe');
  expect(await signOn(liv.email)).toEqual(liv);
  await PersonRow.update({ email: `${newId()}@kittiwake.example` }, { where: { id: liv.id } });
  expect(await signOn(liv.email)).toMatchObject({ id: liv.id });
});

test('an address that is not confirmed lets nobody in, least of all to the account of somebody else', async () => {
  const liv = await newPerson('Liv Moe');
  await expect(signOn(`${liv.email}!`)).rejects.toThrow('Kittiwake Line does not confirm your e-mail address');
});

test('an answer that was not asked for, of another browser, or used twice is refused', async () => {
  const email = `${newId()}@kittiwake.example`;
  const { address, kept } = await beginSignOn(BACK);
  const back = await through(address, email);
  await expect(endSignOn(back, null)).rejects.toThrow('begin again');
  for (const other of ['state', 'nonce', 'verifier'] as const)
    await expect(
      endSignOn(await through((await beginSignOn(BACK)).address, email), { ...kept, [other]: 'x'.repeat(43) } as SignOnKept)
    ).rejects.toThrow('begin again');
  expect(await endSignOn(back, kept)).toMatchObject({ email });
  await expect(endSignOn(back, kept)).rejects.toThrow('begin again');
});

test('an issuer that is not there is said, and asked again the next time', async () => {
  vi.stubEnv('ZANY_OIDC_ISSUER', 'http://127.0.0.1:9');
  await expect(beginSignOn(BACK)).rejects.toThrow('Kittiwake Line cannot be reached');
  vi.stubEnv('ZANY_OIDC_ISSUER', issuer);
  expect((await beginSignOn(BACK)).address).toContain(issuer);
  vi.stubEnv('ZANY_OIDC_ISSUER', '');
  await expect(beginSignOn(BACK)).rejects.toThrow('no other way');
});
