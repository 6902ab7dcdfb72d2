import { EventEmitter } from 'node:events';
import pg from 'pg';
import type { Presence } from '$lib/shared/types';
import { config } from './config';
import { log } from './log';

/** News from the database that a piece has a new revision, whichever server made it. */
const CHANNEL = 'zany_piece';

/** A press on the pad of a piece that runs somewhere: `piece:button`. */
const PAD_CHANNEL = 'zany_pad';

/** Where somebody is in a piece, as JSON. */
const PRESENCE_CHANNEL = 'zany_presence';

interface Listener {
  readonly news: EventEmitter;
  client: pg.Client | null;
  closed: boolean;
}

const store = globalThis as typeof globalThis & { zanyListener?: Listener };

export const channel = CHANNEL;
export const padChannel = PAD_CHANNEL;
export const presenceChannel = PRESENCE_CHANNEL;

/** Calls back with the id of a piece whenever it may have a new revision; gives a function that ends it. */
export function onNews(take: (piece: string | null) => void): () => void {
  const listener = ready();
  listener.news.on('piece', take);
  return () => listener.news.off('piece', take);
}

/** Calls back with each press on a pad; gives a function that ends it. */
export function onPad(take: (piece: string, button: number) => void): () => void {
  const listener = ready();
  listener.news.on('pad', take);
  return () => listener.news.off('pad', take);
}

/** Calls back with where people are, as JSON; gives a function that ends it. */
export function onPresence(take: (piece: string, json: string) => void): () => void {
  const listener = ready();
  listener.news.on('presence', take);
  return () => listener.news.off('presence', take);
}

export async function stopListening(): Promise<void> {
  const listener = store.zanyListener;
  if (!listener) return;
  listener.closed = true;
  await listener.client?.end().catch(() => undefined);
  delete store.zanyListener;
}

function ready(): Listener {
  if (store.zanyListener) return store.zanyListener;
  const news = new EventEmitter();
  news.setMaxListeners(0);
  const listener: Listener = { news, client: null, closed: false };
  store.zanyListener = listener;
  void connect(listener);
  return listener;
}

/** Connects and stays connected. After a gap everybody looks for what they missed (news about no piece in particular). */
async function connect(listener: Listener): Promise<void> {
  if (listener.closed) return;
  const client = new pg.Client({ connectionString: config.databaseUrl });
  const again = () => {
    if (listener.client !== client && listener.client !== null) return;
    listener.client = null;
    if (!listener.closed) setTimeout(() => void connect(listener), 500);
  };
  client.on('error', (error) => {
    log.warn({ err: error }, 'lost the connection that brings news; connecting again');
    again();
  });
  client.on('notification', ({ channel, payload = '' }) => {
    if (channel === PRESENCE_CHANNEL) return void listener.news.emit('presence', (JSON.parse(payload) as Presence).piece, payload);
    const [piece, button] = payload.split(':');
    if (channel === PAD_CHANNEL) listener.news.emit('pad', piece, Number(button));
    else listener.news.emit('piece', payload || null);
  });
  try {
    await client.connect();
    await client.query(`LISTEN ${CHANNEL}; LISTEN ${PAD_CHANNEL}; LISTEN ${PRESENCE_CHANNEL}`);
    listener.client = client;
    listener.news.emit('piece', null);
  } catch (error) {
    log.warn({ err: error }, 'cannot listen for news yet');
    again();
  }
}
