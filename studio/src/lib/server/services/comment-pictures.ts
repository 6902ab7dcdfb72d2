import sharp from 'sharp';
import { database, rows } from '../database';
import { limits } from '../config';
import { newId } from '../ids';
import { isHolder, isPerson, type Principal } from '../principal';
import { Refusal } from '../refusal';
import { commenting, commentsOn } from './comments';

/** Pictures that stand in comments: pasted, so without a name, and never larger than a screen shows them. */

/** So many stand in the comments on one piece; bytes of one as it comes in, and its greater side as it is kept, px. */
const MOST = { pictures: 500, side: 2000 };
export const MOST_PICTURE_BYTES = 12_000_000;

const FORMATS: ReadonlySet<string | undefined> = new Set(['png', 'jpeg', 'webp']);

/** Takes in a picture for a comment that is being written: decoded and written anew, as WebP. */
export async function addPicture(who: Principal, id: string | null, bytes: Uint8Array): Promise<{ readonly id: string }> {
  const { piece, by } = await commenting(who, id);
  const [count] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM comment_pictures WHERE piece_id = $1', [piece]);
  if (count!.all >= MOST.pictures) throw new Refusal('too-large', `In the comments on a piece stand at most ${MOST.pictures} pictures.`);
  const made = newId();
  const kept = await written(bytes);
  await database().query('INSERT INTO comment_pictures (id, piece_id, person_id, holder_id, bytes) VALUES ($1, $2, $3, $4, $5)', {
    bind: [made, piece, isPerson(by) ? by.id : null, isPerson(by) ? null : by.id, kept],
  });
  return { id: made };
}

async function written(bytes: Uint8Array): Promise<Buffer> {
  const refuse = (why: string): never => {
    throw new Refusal('unreadable', `The picture ${why}`);
  };
  const meta = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => refuse('is broken, or no picture at all.'));
  if (!FORMATS.has(meta.format)) return refuse('is no PNG, JPEG or WebP.');
  if (meta.width * meta.height > limits.pixels)
    return refuse(`has ${meta.width} × ${meta.height} pixels; at most ${limits.pixels / 1e6} million can be taken in.`);
  return sharp(bytes, { limitInputPixels: limits.pixels, failOn: 'error' })
    .autoOrient()
    .timeout({ seconds: 20 })
    .resize({ width: MOST.side, height: MOST.side, fit: 'inside', withoutEnlargement: true })
    .webp({ quality: 85 })
    .toBuffer()
    .catch(() => refuse('is broken: only part of it is there.'));
}

/** A picture for whoever may see it: members of the piece, who put it there, and holders of links that show a comment with it. */
export async function pictureIn(who: Principal, id: string | null, picture: string): Promise<Buffer> {
  const { piece, by } = await commenting(who, id);
  const [found] = await rows<{ bytes: Buffer; holder: string | null }>(
    'SELECT bytes, holder_id AS holder FROM comment_pictures WHERE piece_id = $1 AND id = $2',
    [piece, picture]
  );
  const isSeen = async () => (await commentsOn(who, id)).some((one) => [one, ...one.answers].some(({ body }) => body.includes(picture)));
  if (!found || (isHolder(who) && found.holder !== by.id && !(await isSeen()))) throw new Refusal('not-found', 'There is no such picture.');
  return found.bytes;
}

/** Those that stand in no comment any more are thrown away; not such that somebody may be writing about just now. */
export const sweepPictures = (piece: string) =>
  database().query(
    `DELETE FROM comment_pictures AS picture WHERE piece_id = $1 AND created_at < now() - interval '1 hour'
       AND NOT EXISTS (SELECT 1 FROM comments WHERE piece_id = $1 AND position(picture.id IN body) > 0)`,
    { bind: [piece] }
  );
