import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { compile, excerpt, pieceFromTrusted, startFrame, type PieceJson } from '@zany/core';
import type { StarterCard } from '$lib/shared/types';
import { config } from '../config';
import { newId } from '../ids';
import { log } from '../log';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { heavy, orRefuse } from '../work';
import type { BroughtIn } from '../work/tasks';
import { bringInPackage } from './pieces';
import { somebody } from './rights';

interface Starter {
  readonly id: string;
  readonly file: string;
  /** What there is to see in it, as a phrase; null for what is no piece to take apart. */
  readonly holds: string | null;
}

/** Pieces that anybody can begin with: a copy of one's own each. */
const starters: readonly Starter[] = [
  { id: 'ticket-app', file: 'pieces/1-ticket-app.zip', holds: 'pages and sheets of a phone app, a form, a swipe, a menu' },
  { id: 'pier-kiosk', file: 'pieces/5-pier-kiosk.zip', holds: 'pad buttons, films that loop, and a way home when nobody is there' },
  { id: 'summer-banner', file: 'pieces/3-summer-banner.zip', holds: 'a carousel in 300 × 250 with a link out' },
  { id: 'crossing-chart', file: 'pieces/2-crossing-chart.zip', holds: 'hit areas over a picture, labelled sections, clips in clips' },
  { id: 'first-crossing', file: 'lessons/first-crossing.zip', holds: null },
];

interface Unpacked extends BroughtIn {
  readonly cover: PieceJson | null;
}

const unpacked = new Map<string, Promise<Unpacked>>();

const fileOf = ({ file }: Starter): string => join(config.starters!, file);

/** Read once: they never change while the server runs. */
function unpack(starter: Starter): Promise<Unpacked> {
  let reading = unpacked.get(starter.id);
  if (reading) return reading;
  unpacked.set(starter.id, (reading = readStarter(starter)));
  reading.catch(() => unpacked.delete(starter.id));
  return reading;
}

async function readStarter(starter: Starter): Promise<Unpacked> {
  const bytes = new Uint8Array(await readFile(fileOf(starter)));
  const piece = orRefuse(await heavy('package', { bytes, id: newId() }, 'This piece'));
  const whole = pieceFromTrusted(JSON.parse(piece.document) as PieceJson);
  const first = startFrame(compile(whole));
  return { ...piece, cover: first === null ? null : excerpt(whole, first) };
}

/** The pieces to take apart, as far as there are any on this server. */
export async function listStarters(who: Principal): Promise<StarterCard[]> {
  somebody(who);
  if (!config.starters) return [];
  const found = starters.map(async (starter): Promise<StarterCard[]> => {
    if (starter.holds === null) return [];
    try {
      const { name, cover } = await unpack(starter);
      return [{ id: starter.id, name, holds: starter.holds, cover }];
    } catch (error) {
      log.warn({ starter: starter.id, error }, 'a piece to begin with cannot be read');
      return [];
    }
  });
  return (await Promise.all(found)).flat();
}

const starterOf = (id: string): Starter => {
  const starter = config.starters ? starters.find((one) => one.id === id) : undefined;
  if (!starter) throw new Refusal('not-found', 'There is no such piece to begin with.', ['starter']);
  return starter;
};

/** A copy of one, as a new piece of whoever asks. */
export async function takeStarter(who: Principal, id: string): Promise<string> {
  somebody(who);
  return bringInPackage(who, new Uint8Array(await readFile(fileOf(starterOf(id)))));
}

/** A picture in one of them. */
export async function starterAsset(who: Principal, id: string, sha: string): Promise<{ readonly bytes: Buffer; readonly mediaType: string }> {
  somebody(who);
  const { assets } = await unpack(starterOf(id));
  const asset = assets.find((one) => one.id === sha);
  if (!asset) throw new Refusal('not-found', 'There is no such picture.', ['sha']);
  return { bytes: Buffer.from(asset.bytes), mediaType: asset.mediaType };
}
