import { EventEmitter } from 'node:events';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import type { Presence } from '$lib/shared/types';
import { config } from './config';
import { rows } from './database';
import { log } from './log';

/** What servers that share a database tell each other. */
export type Told =
  /** A piece has a new revision, made by one of the servers. */
  | { readonly type: 'piece'; readonly piece: string; readonly revision: number; readonly from: string }
  /** Somebody may do less than before: he has signed out or was taken out, or a piece was deleted. */
  | { readonly type: 'rights'; readonly person?: string; readonly piece?: string }
  /** A press on the pad of a piece that runs somewhere. */
  | { readonly type: 'pad'; readonly piece: string; readonly button: number }
  /** Somebody has commented on a piece, or a comment is otherwise than before. */
  | { readonly type: 'comments'; readonly piece: string }
  /** A review link was changed or withdrawn. */
  | { readonly type: 'link'; readonly link: string }
  | ({ readonly type: 'presence' } & Presence);

/** This server among all that share a database. */
export const SERVER = randomUUID();

/** How something is told: the channel, and the text within the 8,000 bytes that a notice can have. */
export const tell = {
  channel: 'zany',
  text: (told: Told): string => JSON.stringify(told),
};

type Take = (told: Told | { readonly type: 'gap' }) => void;

/** Makes a connection to the database; given so that tests can break it. */
export type Connect = () => Pick<pg.Client, 'on' | 'connect' | 'query' | 'end'>;

const AGAIN = 500;

/**
 * One connection that hears what is told, and is made anew whenever it breaks. At most one is open or being opened at any
 * time. After a break `gap` is said, since whatever was told meanwhile is gone.
 */
export class Listener {
  private readonly news = new EventEmitter().setMaxListeners(0);
  private client: ReturnType<Connect> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isClosed = false;

  constructor(private readonly make: Connect) {
    void this.open();
  }

  /** Calls back with everything that is told; gives a function that ends it. */
  on(take: Take): () => void {
    this.news.on('told', take);
    return () => this.news.off('told', take);
  }

  async close(): Promise<void> {
    this.isClosed = true;
    clearTimeout(this.timer);
    await this.client?.end().catch(() => undefined);
  }

  private async open(): Promise<void> {
    const client = this.make();
    this.client = client;
    client.on('error', (error) => this.broke(client, error));
    client.on('end', () => this.broke(client, new Error('the connection has ended')));
    client.on('notification', ({ payload = '' }) => this.client === client && this.hear(payload));
    try {
      await client.connect();
      await client.query(`LISTEN ${tell.channel}`);
      this.news.emit('told', { type: 'gap' });
    } catch (error) {
      this.broke(client, error as Error);
    }
  }

  /** However often and from wherever it is said that a connection broke: it is replaced once. */
  private broke(client: ReturnType<Connect>, error: Error): void {
    if (this.client !== client || this.isClosed) return;
    this.client = null;
    log.warn({ err: error }, 'lost the connection that brings news; connecting again');
    void client.end().catch(() => undefined);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.open(), AGAIN);
  }

  private hear(payload: string): void {
    try {
      this.news.emit('told', JSON.parse(payload) as Told);
    } catch (error) {
      log.warn({ err: error }, 'a notice could not be read');
    }
  }
}

/** Tells all servers something, at once. */
export const announce = async (told: Told): Promise<void> => void (await rows('SELECT pg_notify($1, $2)', [tell.channel, tell.text(told)]));

const store = globalThis as typeof globalThis & { zanyListener?: Listener };

const listener = (): Listener => (store.zanyListener ??= new Listener(() => new pg.Client({ connectionString: config.databaseUrl })));

export const onTold = (take: Take): (() => void) => listener().on(take);

export async function stopListening(): Promise<void> {
  const made = store.zanyListener;
  delete store.zanyListener;
  await made?.close();
}
