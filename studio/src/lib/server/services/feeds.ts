import type { FollowedText } from '$lib/shared/types';
import { rows } from '../database';
import { onTold, SERVER } from '../listen';
import { log } from '../log';

/** A piece that is followed by somebody on this server. */
interface Feed {
  /** What everybody here has been told up to. */
  revision: number;
  readonly takers: Set<Taker>;
  /** A look into the database that is under way. */
  looking: Promise<void> | null;
  lookAgain: boolean;
  /** News that came just now and is handed over in a moment, all at once. */
  fresh: readonly FollowedText[];
}

/** Who follows a piece. */
export interface Taker {
  readonly take: (piece: string, news: readonly FollowedText[]) => void;
  /** What came cannot be told one by one: the piece has to be fetched anew. */
  readonly behind: (piece: string) => void;
}

/** Where news is looked for. */
export interface NewsSource {
  /** What came after a revision, in order; at most `most`, operations null where they are packed away. */
  readonly after: (piece: string, revision: number, most: number) => Promise<(Omit<FollowedText, 'operations'> & { operations: string | null })[]>;
  readonly revision: (piece: string) => Promise<number>;
  /** Bytes of what came after a revision, about. */
  readonly bytes: (piece: string, revision: number) => Promise<number>;
  /** Calls back when a piece may have news that another server made; with null, any of them. */
  readonly listen: (take: (piece: string | null) => void) => void;
}

/** More than this much is not told one by one: the piece as it is now is less. */
const MOST_BEHIND = { revisions: 2000, bytes: 1_000_000 };
const PORTION = 500;
/** News is gathered this long, in milliseconds: each handing over costs something for everybody who follows. */
const GATHER = 25;

/** The news of all pieces that are followed on one server: each piece is asked for once, however many follow it. */
export class Feeds {
  private readonly feeds = new Map<string, Feed>();
  private isListening = false;

  constructor(private readonly source: NewsSource) {}

  /** Hands over news that was made here. What does not come next is looked for. */
  deliver(piece: string, news: readonly FollowedText[]): void {
    const feed = this.feeds.get(piece);
    if (!feed || news.length === 0) return;
    const last = feed.fresh.at(-1)?.revision ?? feed.revision;
    if (feed.looking || news[0]!.revision !== last + 1) return void this.look(piece);
    if (feed.fresh.length === 0) setTimeout(() => this.handFresh(piece, feed), GATHER);
    feed.fresh = feed.fresh.length ? [...feed.fresh, ...news] : news;
  }

  private handFresh(piece: string, feed: Feed): void {
    // What was looked for meanwhile is not handed over twice.
    const news = feed.fresh.every(({ revision }) => revision > feed.revision)
      ? feed.fresh
      : feed.fresh.filter(({ revision }) => revision > feed.revision);
    feed.fresh = [];
    if (news.length) hand(piece, feed, news);
  }

  /** Follows a piece from a revision on: first what the follower lacks, then what comes. Gives a function that ends it. */
  join(piece: string, from: number, taker: Taker): () => void {
    if (!this.isListening) {
      this.isListening = true;
      this.source.listen((told) => {
        for (const each of told === null ? this.feeds.keys() : [told]) void this.look(each);
      });
    }
    const joining = { live: true };
    void this.catchUp(piece, from, taker, joining).catch((error: unknown) => {
      log.warn({ err: error, piece }, 'could not begin to tell news');
      if (joining.live) taker.behind(piece);
    });
    return () => {
      joining.live = false;
      const feed = this.feeds.get(piece);
      feed?.takers.delete(taker);
      if (feed && feed.takers.size === 0) this.feeds.delete(piece);
    };
  }

  private async catchUp(piece: string, from: number, taker: Taker, joining: { live: boolean }): Promise<void> {
    let at = from;
    for (let looked = false; joining.live;) {
      const feed = await this.feedOf(piece);
      if (!joining.live) return;
      if (at === feed.revision) return void feed.takers.add(taker);
      if (feed.revision - at > MOST_BEHIND.revisions || (at > feed.revision && looked)) return taker.behind(piece);
      if (at > feed.revision) {
        // Saved by another server, and not heard of here yet.
        await this.look(piece, feed);
        looked = true;
        continue;
      }
      if (at === from && (await this.source.bytes(piece, at)) > MOST_BEHIND.bytes) return joining.live ? taker.behind(piece) : undefined;
      const missing = (await this.source.after(piece, at, PORTION)).filter(({ revision }) => revision <= feed.revision);
      if (!joining.live) return;
      if (!isWhole(missing)) return taker.behind(piece);
      if (missing.length === 0) continue;
      taker.take(piece, missing);
      at = missing.at(-1)!.revision;
    }
  }

  private async feedOf(piece: string): Promise<Feed> {
    const known = this.feeds.get(piece);
    if (known) return known;
    const revision = await this.source.revision(piece);
    const made = this.feeds.get(piece) ?? { revision, takers: new Set<Taker>(), looking: null, lookAgain: false, fresh: [] };
    this.feeds.set(piece, made);
    return made;
  }

  /** Looks for what is missing, once for all who follow the piece here. */
  private look(piece: string, feed = this.feeds.get(piece)): Promise<void> {
    if (!feed) return Promise.resolve();
    feed.lookAgain = true;
    feed.looking ??= this.lookOn(piece, feed)
      .catch((error: unknown) => log.warn({ err: error, piece }, 'could not look for news'))
      .finally(() => {
        feed.looking = null;
        // What came while it ended was left to it, and it looked no more.
        if (feed.lookAgain) void this.look(piece, feed);
      });
    return feed.looking;
  }

  private async lookOn(piece: string, feed: Feed): Promise<void> {
    while (feed.lookAgain) {
      feed.lookAgain = false;
      const found = (await this.source.after(piece, feed.revision, PORTION)).filter(({ revision }) => revision > feed.revision);
      if (found.length === 0) continue;
      if (isWhole(found)) hand(piece, feed, found);
      else for (const taker of [...feed.takers]) taker.behind(piece);
      feed.lookAgain ||= found.length > 0;
    }
  }
}

const isWhole = (news: readonly { readonly operations: string | null }[]): news is readonly FollowedText[] =>
  news.every(({ operations }) => operations !== null);

function hand(piece: string, feed: Feed, news: readonly FollowedText[]): void {
  feed.revision = news.at(-1)!.revision;
  for (const taker of [...feed.takers]) taker.take(piece, news);
}

/** The feeds of this server, from its database. */
export const feeds = new Feeds({
  // So much at once that it does not fill the memory; what is left is asked for next.
  after: (piece, revision, most) =>
    rows(
      `SELECT revision, id, person_id AS by, name, operations::text AS operations FROM (
         SELECT *, sum(pg_column_size(operations)) OVER (ORDER BY revision) AS total FROM batches
         WHERE piece_id = $1 AND revision > $2 ORDER BY revision LIMIT ${Number(most)}
       ) AS some WHERE total < 4000000 OR total IS NULL OR revision = $2 + 1 ORDER BY revision`,
      [piece, revision]
    ),
  bytes: async (piece, revision) =>
    Number(
      (
        await rows<{ bytes: string | null }>('SELECT sum(pg_column_size(operations)) AS bytes FROM batches WHERE piece_id = $1 AND revision > $2', [
          piece,
          revision,
        ])
      )[0]?.bytes ?? 0
    ),
  revision: async (piece) => (await rows<{ revision: number }>('SELECT revision FROM pieces WHERE id = $1', [piece]))[0]?.revision ?? 0,
  listen: (take) =>
    void onTold((told) => {
      if (told.type === 'gap') take(null);
      else if (told.type === 'piece' && told.from !== SERVER) take(told.piece);
    }),
});
