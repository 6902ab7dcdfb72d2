import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { afterAll, afterEach, beforeAll, describe, expect, test, vi } from 'vitest';
import { newId } from '../ids';
import { sendLetter } from '../mail';
import { closeWorld, makeMember, newPerson, newPiece, openWorld } from '../testing/world';
import { changePassword, forgotPassword, resetFor, resetPassword } from './accounts';
import { doorBook } from './door-book';
import { invitationOf, invitationsTo, invite, takeBack, takeInvitation } from './invitations';
import { changeRole, handOverOwnership, leavePiece, membersOf, takeOut } from './members';
import { endPadKey, makePadKey, padKeysOf, padOf } from './pad-keys';
import { openSession, personOfSession, register, signIn } from './people';
import { access } from './rights';

let letters: string;
beforeAll(async () => {
  await openWorld();
  letters = await mkdtemp(join(tmpdir(), 'letters-'));
  vi.stubEnv('ZANY_MAIL_FOLDER', letters);
});
afterEach(() => vi.stubEnv('ZANY_SMTP_URL', ''));
afterAll(async () => {
  vi.unstubAllEnvs();
  await rm(letters, { recursive: true, force: true });
  await closeWorld();
});

const OLD = 'otter lamp gravel nine';
const NEW = 'velvet crane harbour six';
const ORIGIN = 'http://studio.example';
const tokenIn = (address: string) => address.split('/').at(-1)!;
const from = () => ({ address: newId(), device: undefined });

async function account(name = 'Odd Vik') {
  const email = `${newId()}@kittiwake.example`;
  await register(name, email, OLD, newId());
  return { email, person: await signIn(email, OLD, from()) };
}

/** The letters to an address that lie in the folder, when there are some. */
async function lettersTo(email: string, least = 1): Promise<string[]> {
  return vi.waitFor(async () => {
    const all = await Promise.all((await readdir(letters)).sort().map((file) => readFile(join(letters, file), 'utf8')));
    const found = all.filter((text) => text.includes(email));
    expect(found.length).toBeGreaterThanOrEqual(least);
    return found;
  });
}

/** The text of a letter without the folding of quoted-printable. */
const plain = (letter: string) => letter.replace(/=\r?\n/g, '').replace(/=3D/g, '=');

describe('invitations', () => {
  test('one person can take one, and has the role then; it is sent where that is asked for', async () => {
    const [ina, odd, late] = [await newPerson('Ina Rask'), await newPerson('Odd Vik'), await newPerson('Late')];
    const { id } = await newPiece(ina);
    const { address } = await invite(ina, id, 'editor', odd.email, ORIGIN);
    expect(plain((await lettersTo(odd.email))[0]!)).toContain(address);
    expect(await invitationOf(tokenIn(address))).toMatchObject({ piece: id, name: 'Harbour', role: 'editor', by: 'Ina Rask' });
    await expect(access(odd, id, 'edit')).rejects.toMatchObject({ code: 'not-found' });
    const results = await Promise.allSettled([takeInvitation(odd, tokenIn(address)), takeInvitation(late, tokenIn(address))]);
    expect(results.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    await expect(takeInvitation(late, tokenIn(address))).rejects.toThrow('taken already');
    expect((await membersOf(ina, id)).map(({ role }) => role)).toEqual(['owner', 'editor']);
    expect((await doorBook(ina, id)).map(({ sentence }) => sentence)).toEqual([
      expect.stringMatching(/^came in as an editor, invited by Ina Rask$/),
      `invited ${odd.email} as an editor`,
    ]);
  });

  test('who is a member already keeps the higher role', async () => {
    const [ina, liv] = [await newPerson('Ina Rask'), await newPerson('Liv Moe')];
    const { id } = await newPiece(ina);
    await makeMember(id, liv, 'owner');
    await takeInvitation(liv, tokenIn((await invite(ina, id, 'reviewer', '', ORIGIN)).address));
    expect((await membersOf(ina, id)).find((one) => one.id === liv.id)?.role).toBe('owner');
  });

  test('one that is taken back, or that nobody made, lets nobody in', async () => {
    const [ina, odd] = [await newPerson('Ina Rask'), await newPerson('Odd Vik')];
    const { id } = await newPiece(ina);
    const { address } = await invite(ina, id, 'owner', '', ORIGIN);
    await takeBack(ina, id, (await invitationsTo(ina, id))[0]!.id);
    for (const token of [tokenIn(address), newId()]) await expect(takeInvitation(odd, token)).rejects.toThrow('taken back');
    await expect(takeInvitation(null, newId())).rejects.toMatchObject({ code: 'signed-out' });
    expect(await invitationsTo(ina, id)).toEqual([]);
  });

  test('nobody sends letters without end', async () => {
    const ina = await newPerson('Ina Rask');
    const { id } = await newPiece(ina);
    for (let i = 0; i < 60; i++) await invite(ina, id, 'reviewer', '', ORIGIN);
    await expect(invite(ina, id, 'reviewer', '', ORIGIN)).rejects.toThrow('Too many tries');
  });
});

describe('members', () => {
  test('roles change at once, and a piece is never without an owner', async () => {
    const [ina, odd] = [await newPerson('Ina Rask'), await newPerson('Odd Vik')];
    const { id } = await newPiece(ina);
    await makeMember(id, odd, 'reviewer');
    await expect(access(odd, id, 'edit')).rejects.toMatchObject({ code: 'not-allowed' });
    await changeRole(ina, id, odd.id, 'editor');
    await expect(access(odd, id, 'edit')).resolves.toBeDefined();
    for (const work of [() => leavePiece(ina, id), () => changeRole(ina, id, ina.id, 'editor'), () => takeOut(ina, id, ina.id)])
      await expect(work()).rejects.toThrow('A piece needs an owner');
    await handOverOwnership(ina, id, odd.id);
    expect((await membersOf(odd, id)).map(({ name, role }) => `${name}: ${role}`)).toEqual(['Odd Vik: owner', 'Ina Rask: editor']);
    await expect(changeRole(ina, id, odd.id, 'reviewer')).rejects.toMatchObject({ code: 'not-allowed' });
    await takeOut(odd, id, ina.id);
    await expect(access(ina, id, 'look')).rejects.toMatchObject({ code: 'not-found' });
  });

  test('of two owners who leave at once one stays', async () => {
    const [ina, liv] = [await newPerson('Ina Rask'), await newPerson('Liv Moe')];
    const { id } = await newPiece(ina);
    await makeMember(id, liv, 'owner');
    const results = await Promise.allSettled([leavePiece(ina, id), leavePiece(liv, id)]);
    expect(results.filter(({ status }) => status === 'rejected')).toHaveLength(1);
  });

  test('addresses are for those who may invite', async () => {
    const [ina, odd] = [await newPerson('Ina Rask'), await newPerson('Odd Vik')];
    const { id } = await newPiece(ina);
    await makeMember(id, odd, 'reviewer');
    expect((await membersOf(ina, id)).map(({ email }) => email)).toEqual([ina.email, odd.email]);
    expect((await membersOf(odd, id)).map(({ email }) => email)).toEqual(['', '']);
  });
});

describe('keys of pads', () => {
  test('a key belongs to its piece until it is ended', async () => {
    const ina = await newPerson('Ina Rask');
    const { id } = await newPiece(ina);
    const { key } = await makePadKey(ina, id, 'Box at the pier');
    expect(await padOf(key)).toEqual({ kind: 'pad', piece: id });
    expect(await padOf(`${key}x`)).toBeNull();
    const [kept] = await padKeysOf(ina, id);
    expect(JSON.stringify(kept)).not.toContain(key);
    await endPadKey(ina, id, kept!.id);
    expect(await padOf(key)).toBeNull();
  });
});

describe('passwords', () => {
  test('a forgotten one is replaced by a link, once; all sessions end', async () => {
    const { email, person } = await account();
    const session = await openSession(person, undefined);
    await forgotPassword(email.toUpperCase(), newId(), ORIGIN);
    const token = /new-password\/([\w-]+)/.exec(plain((await lettersTo(email))[0]!))![1]!;
    expect(await resetFor(token)).toEqual({ name: 'Odd Vik' });
    await expect(resetPassword(token, 'short')).rejects.toThrow('12 to 128');
    await resetPassword(token, NEW);
    await expect(resetPassword(token, OLD)).rejects.toThrow('has been used');
    expect(await personOfSession(session)).toBeNull();
    await expect(signIn(email, OLD, from())).rejects.toThrow('do not go together');
    expect(await signIn(email, NEW, from())).toMatchObject({ email });
  });

  test('asking for an address that nobody has says the same and sends nothing; asking again and again sends three letters', async () => {
    const nobody = `${newId()}@kittiwake.example`;
    await expect(forgotPassword(nobody, newId(), ORIGIN)).resolves.toBeUndefined();
    const { email } = await account();
    for (let i = 0; i < 5; i++) await forgotPassword(email, newId(), ORIGIN);
    await lettersTo(email, 3);
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(await lettersTo(email, 3)).toHaveLength(3);
    await expect(lettersTo(nobody)).rejects.toThrow();
    const place = newId();
    for (let i = 0; i < 20; i++) await forgotPassword(nobody, place, ORIGIN);
    await expect(forgotPassword(nobody, place, ORIGIN)).rejects.toThrow('Too many tries');
  });

  test('is changed by whoever knows the old one; other browsers are signed out', async () => {
    const { email, person } = await account();
    const [here, there] = [await openSession(person, undefined), await openSession(person, undefined)];
    await expect(changePassword(person, here, 'wrong', NEW)).rejects.toThrow('not your old password');
    await changePassword(person, here, OLD, NEW);
    expect(await personOfSession(here)).toMatchObject({ email });
    expect(await personOfSession(there)).toBeNull();
    for (let i = 0; i < 10; i++) await expect(changePassword(person, here, 'wrong', OLD)).rejects.toThrow('not your old password');
    await expect(changePassword(person, here, NEW, OLD)).rejects.toThrow('Too many tries');
  });
});

test('letters go to the SMTP server that is named, whole, whatever stands in them', async () => {
  const taken: { to: string[]; text: string }[] = [];
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    onData: (stream, session, done) => {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        taken.push({ to: session.envelope.rcptTo.map(({ address }) => address), text: Buffer.concat(parts).toString() });
        done();
      });
    },
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.server.address() as { port: number };
  vi.stubEnv('ZANY_SMTP_URL', `smtp://127.0.0.1:${port}`);
  await sendLetter({ to: 'odd@kittiwake.example', subject: 'Two\r\nBcc: spy@kittiwake.example', text: 'Ærlig\n.\nend' });
  await new Promise<void>((resolve) => server.close(() => resolve()));
  expect(taken).toHaveLength(1);
  expect(taken[0]!.to).toEqual(['odd@kittiwake.example']);
  expect(taken[0]!.text).not.toMatch(/^Bcc:/m);
  expect(taken[0]!.text).toContain('end');
  await expect(sendLetter({ to: 'odd@kittiwake.example', subject: 'x', text: 'y' })).rejects.toThrow();
});
