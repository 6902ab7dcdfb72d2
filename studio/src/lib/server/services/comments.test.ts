import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import type { LinkWish, Person } from '$lib/shared/types';
import { rows } from '../database';
import { newId } from '../ids';
import { onTold, type Told } from '../listen';
import type { Holder } from '../principal';
import { aboutFrame, batch, closeWorld, makeMember, newPerson, newPiece, openWorld, wish } from '../testing/world';
import { addPicture, pictureIn, sweepPictures } from './comment-pictures';
import { addComment, changeComment, commentsOn, deleteComment, namesAround, noteSeen } from './comments';
import { comeIn, holderOf } from './link-door';
import { makeLink } from './links';
import { openPiece } from './pieces';
import { saveBatches } from './saving';
import { forgetMe } from './trails';

const AT = 'https://studio.example';

const letters = await mkdtemp(join(tmpdir(), 'letters-'));
vi.stubEnv('ZANY_MAIL_FOLDER', letters);
afterAll(() => rm(letters, { recursive: true, force: true }));

beforeAll(openWorld);
afterAll(closeWorld);

async function world(): Promise<{ id: string; frame: string; ina: Person; odd: Person }> {
  const [ina, odd] = [await newPerson('Ina Rask'), await newPerson('Odd Vik')];
  const { id, frame } = await newPiece(ina);
  await makeMember(id, odd, 'reviewer');
  return { id, frame, ina, odd };
}

async function guest(owner: Person, id: string, more: Partial<LinkWish> = {}): Promise<Holder> {
  const { token } = await makeLink(owner, id, wish({ may: 'comment', ...more }), null);
  return (await holderOf(token, await comeIn(token, 'Liv', '', newId())))!;
}

const on = (frame: string, body: string, root: string | null = null) => ({ root, place: root === null ? aboutFrame(frame) : null, body });

describe('comments', () => {
  test('are answered, seen, resolved, and opened again by an answer', async () => {
    const { id, frame, ina, odd } = await world();
    const { id: root } = await addComment(odd, id, on(frame, 'Too **dark**'), AT);
    const first = async (who: Person) => (await commentsOn(who, id))[0]!;
    expect(await first(ina)).toMatchObject({
      by: 'Odd Vik',
      body: 'Too **dark**',
      isMine: false,
      isUnread: true,
      resolvedBy: null,
      place: { scene: frame },
    });
    expect(await first(odd)).toMatchObject({ isMine: true, isUnread: false });
    await noteSeen(ina, id, [root]);
    expect((await first(ina)).isUnread).toBe(false);
    await addComment(ina, id, on(frame, 'Lighter now', root), AT);
    expect(await first(odd)).toMatchObject({ isUnread: true, answers: [{ by: 'Ina Rask' }] });
    await changeComment(ina, id, root, { resolved: true });
    expect((await first(odd)).resolvedBy).toBe('Ina Rask');
    await addComment(odd, id, on(frame, 'Still dark', root), AT);
    expect((await first(ina)).resolvedBy).toBeNull();
  });

  test('members who are spoken to get a letter, nobody else and not who speaks', async () => {
    const { id, frame, ina, odd } = await world();
    const liv = await guest(ina, id);
    await addComment(ina, id, on(frame, 'Is it so, @Odd Vik? I, @Ina Rask, think not.'), AT);
    await addComment(liv, null, on(frame, '@ina rask: larger'), AT);
    await addComment(odd, id, on(frame, 'ina rask, @Nobody'), AT);
    const sent = await vi.waitFor(async () => {
      const all = await Promise.all((await readdir(letters)).map((file) => readFile(join(letters, file), 'utf8')));
      expect(all.length).toBeGreaterThanOrEqual(2);
      return all;
    });
    expect(sent).toHaveLength(2);
    const address = `${AT}/p/${id}/build`;
    expect(sent.every((letter) => letter.replace(/=\r?\n/g, '').includes(address))).toBe(true);
    expect(sent.map((letter) => /^Subject: .*$/m.exec(letter)![0]).sort()).toEqual([
      expect.stringContaining('Ina_Rask'),
      expect.stringContaining('Liv'),
    ]);
    expect(await namesAround(ina, id)).toEqual(['Ina Rask', 'Odd Vik']);
  });

  test('hold pictures, written anew; the holder of a link sees those that stand in what he sees', async () => {
    const { id, frame, ina, odd } = await world();
    const picture = await sharp({ create: { width: 2400, height: 300, channels: 3, background: '#0b7a75' } })
      .png()
      .toBuffer();
    const { id: one } = await addPicture(ina, id, picture);
    const liv = await guest(ina, id);
    await expect(pictureIn(liv, null, one)).rejects.toMatchObject({ code: 'not-found' });
    const { id: root } = await addComment(ina, id, on(frame, `See ![picture](picture:${one})`), AT);
    const kept = await pictureIn(liv, null, one);
    expect(await sharp(kept).metadata()).toMatchObject({ format: 'webp', width: 2000, height: 250 });
    expect((await pictureIn(odd, id, one)).equals(kept)).toBe(true);
    const other = await world();
    await expect(pictureIn(other.ina, other.id, one)).rejects.toMatchObject({ code: 'not-found' });
    const { id: own } = await addPicture(liv, null, picture);
    expect((await pictureIn(liv, null, own)).length).toBeGreaterThan(0);
    for (const [bytes, why] of [
      [new Uint8Array([1, 2, 3]), 'no picture at all'],
      [picture.subarray(0, 400), 'broken'],
      [await sharp(picture).gif().toBuffer(), 'is no PNG'],
    ] as const)
      await expect(addPicture(ina, id, bytes)).rejects.toThrow(why);
    await rows(`UPDATE comment_pictures SET created_at = now() - interval '2 hours' WHERE piece_id = $1`, [id]);
    await sweepPictures(id);
    expect((await pictureIn(ina, id, one)).equals(kept)).toBe(true);
    await expect(pictureIn(ina, id, own)).rejects.toThrow('no such picture');
    await deleteComment(ina, id, root);
    await sweepPictures(id);
    await expect(pictureIn(ina, id, one)).rejects.toThrow('no such picture');
  });

  test('are changed by who wrote them alone; an owner may delete them; answers stay', async () => {
    const { id, frame, ina, odd } = await world();
    const { id: root } = await addComment(ina, id, on(frame, 'Hm'), AT);
    const { id: answer } = await addComment(odd, id, on(frame, 'Hm too', root), AT);
    await expect(changeComment(odd, id, root, { body: 'No' })).rejects.toThrow('Only who wrote');
    await expect(deleteComment(odd, id, root)).rejects.toMatchObject({ code: 'not-allowed' });
    await changeComment(ina, id, root, { body: 'Hm, hm' });
    await deleteComment(ina, id, root);
    expect(await commentsOn(odd, id)).toMatchObject([{ body: '', answers: [{ body: 'Hm too' }] }]);
    await deleteComment(ina, id, answer);
    await deleteComment(ina, id, root);
    expect(await commentsOn(odd, id)).toEqual([]);
    await expect(addComment(odd, id, on(frame, 'Late', root), AT)).rejects.toThrow('is gone');
  });

  test('one of another piece is not there', async () => {
    const [a, b] = [await world(), await world()];
    const { id: root } = await addComment(a.ina, a.id, on(a.frame, 'Hm'), AT);
    await expect(addComment(b.ina, b.id, on(b.frame, 'Hm', root), AT)).rejects.toMatchObject({ code: 'not-found' });
    await expect(changeComment(b.ina, b.id, root, { resolved: true })).rejects.toMatchObject({ code: 'not-found' });
    await expect(deleteComment(b.ina, b.id, root)).rejects.toMatchObject({ code: 'not-found' });
  });

  test('all who have the piece open are told', async () => {
    const { id, frame, odd } = await world();
    const heard: Told[] = [];
    const stop = onTold((told) => void (told.type !== 'gap' && heard.push(told)));
    await expect
      .poll(async () => {
        await addComment(odd, id, on(frame, 'Hm'), AT);
        return heard.some((told) => told.type === 'comments' && told.piece === id);
      })
      .toBe(true);
    stop();
  });
});

describe('what was made a loose end of', () => {
  /** The comments that are loose ends of a piece as it is now, and its revision. */
  const askedIn = async (who: Person, id: string) => {
    const { piece, revision } = JSON.parse(await openPiece(who, id)) as { piece: { asked?: object }; revision: number };
    return [Object.keys(piece.asked ?? {}), revision] as const;
  };
  const ask = (who: Person, id: string, scene: string, ...comments: string[]) =>
    saveBatches(who, id, [
      batch(comments.map((one) => ({ op: 'set', table: 'piece', id, path: ['asked', one], value: { words: 'Too dark', by: 'Odd Vik', scene } }))),
    ]);

  test('is none when a reviewer resolves it, who may change nothing else; resolving what is none changes nothing', async () => {
    const { id, frame, ina, odd } = await world();
    const { id: one } = await addComment(odd, id, on(frame, 'Too dark'), AT);
    const { id: other } = await addComment(odd, id, on(frame, 'Too small'), AT);
    await ask(ina, id, frame, one);
    expect(await askedIn(ina, id)).toEqual([[one], 1]);
    await changeComment(odd, id, other, { resolved: true });
    expect(await askedIn(ina, id)).toEqual([[one], 1]);
    await changeComment(odd, id, one, { resolved: true });
    expect(await askedIn(ina, id)).toEqual([[], 2]);
    await expect(saveBatches(odd, id, [batch([{ op: 'set', table: 'piece', id, path: ['name'], value: 'Mine' }])])).rejects.toThrow(
      'Only its editors'
    );
  });

  test('is none when its words are deleted, or taken back by who came by a link', async () => {
    const { id, frame, ina, odd } = await world();
    const liv = await guest(ina, id);
    const { id: one } = await addComment(odd, id, on(frame, 'Too dark'), AT);
    const { id: two } = await addComment(liv, null, on(frame, 'Too small'), AT);
    await ask(ina, id, frame, one, two);
    await deleteComment(odd, id, one);
    expect((await askedIn(ina, id))[0]).toEqual([two]);
    await forgetMe(liv);
    expect((await askedIn(ina, id))[0]).toEqual([]);
  });
});

describe('by a link', () => {
  test('somebody comments and answers on the frames that it shows, and sees no others', async () => {
    const { id, frame, ina } = await world();
    const liv = await guest(ina, id);
    await addComment(ina, id, on('elsewhere', 'Between us'), AT);
    await addComment(liv, null, on(frame, 'Where do I pay?'), AT);
    expect((await commentsOn(liv, null)).map(({ body, isMine }) => [body, isMine])).toEqual([['Where do I pay?', true]]);
    expect((await commentsOn(ina, id)).map(({ by, isGuest }) => [by, isGuest])).toEqual([
      ['Ina Rask', false],
      ['Liv', true],
    ]);
    await expect(addComment(liv, null, on('elsewhere', 'Hm'), AT)).rejects.toThrow('not shown by the link');
    const [between] = await commentsOn(ina, id);
    await expect(addComment(liv, null, on(frame, 'Hm', between!.id), AT)).rejects.toThrow('not shown by the link');
    const walker = await guest(ina, id, { may: 'walk' });
    await expect(commentsOn(walker, null)).rejects.toMatchObject({ code: 'not-allowed' });
  });

  test('who takes back what is kept takes back the words and the name; answers of others stay', async () => {
    const { id, frame, ina } = await world();
    const liv = await guest(ina, id);
    const { id: root } = await addComment(liv, null, on(frame, 'Ugly'), AT);
    await addComment(ina, id, on(frame, 'We know', root), AT);
    await forgetMe(liv);
    expect(await commentsOn(ina, id)).toMatchObject([{ by: 'Somebody', body: '', isGuest: true, answers: [{ body: 'We know' }] }]);
  });
});
