import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { passwordProblem } from '../passwords';
import { closeWorld, makeMember, newPerson, newPiece, openWorld } from '../testing/world';
import { newId } from '../ids';
import type { Person } from '$lib/shared/types';
import { Listener, stopListening, type Connect } from '../listen';
import { access, visibleOf } from './rights';
import { follow } from './following';
import { closeSession, openSession, personOfSession, register, rememberDevice, signIn } from './people';
import { setDeleted } from './pieces';

beforeAll(openWorld);
afterAll(closeWorld);

const GOOD = 'otter lamp gravel nine';
const account = async () => {
  const email = `${newId()}@kittiwake.example`;
  await register('Odd Vik', email, GOOD, newId());
  return email;
};
const from = (address: string, device?: string) => ({ address, device });

describe('accounts', () => {
  test('passwords that guessers try first are refused, long ones of any kind are taken', () => {
    for (const bad of ['short', 'password1234', 'qwertyuiop12', 'aaaaaaaaaaaaaaaa', 'zanythread2026', 'oddvik12345678'])
      expect(passwordProblem(bad, ['Odd Vik', 'odd@kittiwake.example'])).not.toBeNull();
    for (const good of [GOOD, 'Ærlig ferge på lang tur', 'x7#kq!Lm2$vPz', '🚢🌊🐧🦀⛵🐟🪝🧭🗼🌧️🦭🏝️']) expect(passwordProblem(good, [])).toBeNull();
  });

  test('whether there is an account is not told: the answer is the same, and the first password stays', async () => {
    const email = await account();
    await expect(register('Other', email.toUpperCase(), 'velvet crane harbour six', newId())).resolves.toBeUndefined();
    await expect(signIn(email, 'velvet crane harbour six', from('a'))).rejects.toThrow('do not go together');
    await expect(signIn(`${newId()}@kittiwake.example`, GOOD, from('a'))).rejects.toThrow('do not go together');
    expect(await signIn(email, GOOD, from('a'))).toMatchObject({ email });
  });

  test('two at once with one address make one account', async () => {
    const email = `${newId()}@kittiwake.example`;
    await Promise.all(Array.from({ length: 5 }, (_, i) => register(`P${i}`, email, GOOD, newId())));
    expect(await signIn(email, GOOD, from('b'))).toMatchObject({ email });
  });

  test('strangers who guess do not lock out the one whose account it is', async () => {
    const email = await account();
    const person = await signIn(email, GOOD, from('home'));
    const device = await rememberDevice(person.id, undefined);
    for (let i = 0; i < 10; i++) await expect(signIn(email, `wrong guess ${i}`, from('street'))).rejects.toThrow('do not go together');
    await expect(signIn(email, GOOD, from('street'))).rejects.toThrow('Too many tries');
    expect(await signIn(email, GOOD, from('street', device))).toMatchObject({ id: person.id });
    // A device of somebody else helps nobody.
    const other = await newPerson();
    await expect(signIn(email, GOOD, from('street', await rememberDevice(other.id, undefined)))).rejects.toThrow('Too many tries');
  });

  test('accounts from one place are limited', async () => {
    const place = newId();
    for (let i = 0; i < 20; i++) await register('P', `${newId()}@kittiwake.example`, GOOD, place);
    await expect(register('P', `${newId()}@kittiwake.example`, GOOD, place)).rejects.toThrow('Too many tries');
  }, 60_000);

  test('a new sign-in ends the session that the browser had', async () => {
    const person = await newPerson();
    const first = await openSession(person, undefined);
    expect(await personOfSession(first)).toMatchObject({ id: person.id });
    const second = await openSession(person, first);
    expect(await personOfSession(first)).toBeNull();
    expect(await personOfSession(second)).toMatchObject({ id: person.id });
    await closeSession(second);
    expect(await personOfSession(second)).toBeNull();
    expect(await personOfSession('made up')).toBeNull();
  });
});

describe('rights', () => {
  test('each role may do what it may, and nobody learns of what is not shared with him', async () => {
    const [owner, editor, reviewer, stranger] = await Promise.all(['O', 'E', 'R', 'S'].map((name) => newPerson(name)));
    const { id } = await newPiece(owner!);
    await makeMember(id, editor!, 'editor');
    await makeMember(id, reviewer!, 'reviewer');
    const may = async (person: typeof owner | null, deed: 'look' | 'edit' | 'delete') =>
      access(person ?? null, id, deed).then(
        () => 'yes',
        (error: { code: string }) => error.code
      );
    const table = await Promise.all(
      [owner, editor, reviewer, stranger, null].map((person) => Promise.all((['look', 'edit', 'delete'] as const).map((deed) => may(person, deed))))
    );
    expect(table).toEqual([
      ['yes', 'yes', 'yes'],
      ['yes', 'yes', 'not-allowed'],
      ['yes', 'not-allowed', 'not-allowed'],
      ['not-found', 'not-found', 'not-found'],
      ['signed-out', 'signed-out', 'signed-out'],
    ]);
    expect(await visibleOf(reviewer!.id, [id, 'nothing'])).toEqual(new Set([id]));
    await setDeleted(owner!, id, true);
    expect(await may(owner!, 'look')).toBe('not-found');
    expect(await visibleOf(owner!.id, [id])).toEqual(new Set());
  });
});

describe('open streams', () => {
  const reading = async (stream: ReadableStream<Uint8Array>) => {
    let text = '';
    let ended = false;
    const reader = stream.getReader();
    void (async () => {
      for (let part = await reader.read(); !part.done; part = await reader.read()) text += new TextDecoder().decode(part.value);
    })()
      .catch(() => undefined)
      .finally(() => (ended = true));
    const until = async (is: () => boolean) => {
      for (let i = 0; i < 400 && !is(); i++) await new Promise((resolve) => setTimeout(resolve, 50));
      expect(is()).toBe(true);
    };
    return { text: () => text, ended: () => ended, until, stop: () => reader.cancel() };
  };

  /** What somebody hears of pieces from the beginning on. */
  const heardOf = async (who: Person, ...pieces: readonly string[]) =>
    reading(await follow(who, await openSession(who, undefined), new Map(pieces.map((id) => [id, 0]))));

  test('a piece that is deleted is told as gone, and the others go on', async () => {
    const owner = await newPerson();
    const [a, b] = [await newPiece(owner), await newPiece(owner)];
    const heard = await heardOf(owner, a.id, b.id, 'nothing');
    await heard.until(() => heard.text().includes('{"piece":"nothing"}'));
    // Told at once, or looked for when this server begins to hear what is told: whichever comes first.
    await setDeleted(owner, a.id, true);
    await heard.until(() => heard.text().includes(`event: gone\ndata: {"piece":"${a.id}"}`));
    expect(heard.text()).not.toContain(`event: gone\ndata: {"piece":"${b.id}"}`);
    expect(heard.ended()).toBe(false);
    await heard.stop();
  });

  test('signing out ends them', async () => {
    const owner = await newPerson();
    const { id } = await newPiece(owner);
    const token = await openSession(owner, undefined);
    const heard = await reading(await follow(owner, token, new Map([[id, 0]])));
    await closeSession(token);
    await heard.until(() => heard.ended());
    expect(heard.text()).toContain('event: signed-out');
  });

  test('what was told while nobody could hear it is looked for: a deleted piece is gone, comments are asked for', async () => {
    await stopListening();
    let hears: () => void = () => undefined;
    const connection = {
      on: () => connection,
      connect: () => new Promise<void>((resolve) => (hears = resolve)),
      query: async () => ({ rows: [] }),
      end: async () => undefined,
    } as unknown as ReturnType<Connect>;
    const store = globalThis as typeof globalThis & { zanyListener?: Listener };
    store.zanyListener = new Listener(() => connection);
    const owner = await newPerson();
    const [a, b] = [await newPiece(owner), await newPiece(owner)];
    const heard = await heardOf(owner, a.id, b.id);
    await setDeleted(owner, a.id, true);
    expect(heard.text()).not.toContain('event:');
    hears();
    await heard.until(() => heard.text().includes(`event: gone\ndata: {"piece":"${a.id}"}`));
    expect(heard.text()).toContain(`event: comments\ndata: {"piece":"${b.id}"`);
    expect(heard.text()).not.toContain(`event: gone\ndata: {"piece":"${b.id}"}`);
    await heard.stop();
    await stopListening();
  });

  test('one that nobody reads is dropped before it fills the memory', async () => {
    const owner = await newPerson();
    const { id } = await newPiece(owner);
    const token = await openSession(owner, undefined);
    const stream = await follow(owner, token, new Map([[id, 0]]));
    await new Promise((resolve) => setTimeout(resolve, 200));
    const { feeds } = await import('./feeds');
    const long = JSON.stringify([{ op: 'set', value: 'x'.repeat(300_000) }]);
    for (let i = 1; i <= 12; i++) {
      feeds.deliver(id, [{ revision: i, id: `b${i}`, by: 'p', name: 'Edit', operations: long }]);
      await new Promise((resolve) => setTimeout(resolve, 35));
    }
    const reader = stream.getReader();
    await expect(
      (async () => {
        while (!(await reader.read()).done);
      })()
    ).rejects.toThrow('too slow');
  });
});
