import type { FollowedText, PadPress, Presence } from '$lib/shared/types';
import { onTold, type Told } from '../listen';
import { log } from '../log';
import type { Principal } from '../principal';
import { somebody, unknownPiece, visibleOf } from './rights';
import { feeds } from './feeds';
import { personOfSession } from './people';

const streams = new Set<Stream>();

/** Ends every stream, so that the server can stop. */
export function closeStreams(): void {
  for (const stream of [...streams]) stream.close();
}

const HEARTBEAT = 20_000;

/** Bytes that wait for a reader at most; one that reads slower is dropped, and begins again from where it was. */
const MOST_WAITING = 1_000_000;

/** Streams that one person has open at most: a browser has one, however many tabs. */
const MOST_STREAMS = 100;

/**
 * A stream of server-sent events with every batch of some pieces after a revision of each. The id of an event tells the
 * place in all of them, so that a browser that connects again goes on where it was. Presses on pads and where people are come
 * in between; one that was missed is gone. A piece that cannot be seen (any more) is told as gone; the others go on.
 */
export async function follow(who: Principal, token: string | undefined, from: ReadonlyMap<string, number>): Promise<ReadableStream<Uint8Array>> {
  const person = somebody(who);
  const mine = [...streams].filter((stream) => stream.person === person.id);
  for (const oldest of mine.slice(0, Math.max(0, mine.length - MOST_STREAMS + 1))) oldest.close();
  const visible = await visibleOf(person.id, [...from.keys()]);
  if (visible.size === 0) throw unknownPiece();
  const stream = new Stream(person.id, token, from);
  return stream.open(visible);
}

/** What is sent is made once for all who get the same and stand at the same place. */
const encoder = new TextEncoder();
const made = new WeakMap<readonly FollowedText[], Map<string, Uint8Array>>();

function bytesOf(piece: string, news: readonly FollowedText[], place: string): Uint8Array {
  const known = made.get(news) ?? new Map<string, Uint8Array>();
  made.set(news, known);
  let bytes = known.get(place);
  if (!bytes) {
    const batches = news.map((one) => `event: batch\ndata: ${dataOf(piece, one)}\n\n`).join('');
    // One id for all of them: a reader that breaks off in the middle is sent some again, and knows them by their revisions.
    known.set(place, (bytes = encoder.encode(`${batches}id: ${place}\nevent: place\ndata: 0\n\n`)));
  }
  return bytes;
}

const dataOf = (piece: string, { revision, by, id, name, operations }: FollowedText): string =>
  `{"piece":${JSON.stringify(piece)},"revision":${revision},"by":${JSON.stringify(by)},"batch":{"id":${JSON.stringify(id)},"name":${JSON.stringify(name)},"operations":${operations.replace(/[\n\r]/g, ' ')}}}`;

class Stream {
  private readonly at: Map<string, number>;
  private readonly leaves = new Map<string, () => void>();
  private controller: ReadableStreamDefaultController<Uint8Array> | null = null;
  private beat: ReturnType<typeof setInterval> | undefined;
  private stopTold: () => void = () => undefined;

  constructor(
    readonly person: string,
    private readonly token: string | undefined,
    from: ReadonlyMap<string, number>
  ) {
    this.at = new Map(from);
  }

  open(visible: ReadonlySet<string>): ReadableStream<Uint8Array> {
    streams.add(this);
    return new ReadableStream<Uint8Array>(
      {
        start: (controller) => {
          this.controller = controller;
          this.write('retry: 1000\n\n');
          for (const piece of [...this.at.keys()]) if (!visible.has(piece)) this.gone(piece);
          for (const [piece, revision] of this.at)
            this.leaves.set(piece, feeds.join(piece, revision, { take: (id, news) => this.take(id, news), behind: (id) => this.behind(id) }));
          this.stopTold = onTold((told) => this.hear(told));
          this.beat = setInterval(() => {
            this.write(': still here\n\n');
            void this.checkRights();
          }, HEARTBEAT);
        },
        cancel: () => this.end(),
      },
      { highWaterMark: MOST_WAITING, size: (part) => part.byteLength }
    );
  }

  close(): void {
    const { controller } = this;
    this.end();
    try {
      controller?.close();
    } catch {
      // Its reader was faster.
    }
  }

  private end(): void {
    this.controller = null;
    clearInterval(this.beat);
    this.stopTold();
    for (const leave of this.leaves.values()) leave();
    this.leaves.clear();
    streams.delete(this);
  }

  private write(text: string): void {
    this.send(encoder.encode(text));
  }

  private send(bytes: Uint8Array): void {
    const { controller } = this;
    if (!controller) return;
    if ((controller.desiredSize ?? 0) <= 0) {
      this.end();
      // What waits is let go at once; closing would keep it for a reader who does not come.
      return controller.error(new Error('the reader is too slow'));
    }
    controller.enqueue(bytes);
  }

  private take(piece: string, news: readonly FollowedText[]): void {
    if (!this.at.has(piece)) return;
    this.at.set(piece, news.at(-1)!.revision);
    this.send(bytesOf(piece, news, this.place()));
  }

  private place = (): string => [...this.at].map(([id, revision]) => `${id}:${revision}`).join(',');

  private behind(piece: string): void {
    this.forget(piece);
    this.write(`event: behind\ndata: ${JSON.stringify({ piece })}\n\n`);
  }

  private gone(piece: string): void {
    this.forget(piece);
    this.write(`event: gone\ndata: ${JSON.stringify({ piece })}\n\n`);
  }

  private commented(piece: string): void {
    this.write(eventOf('comments', { piece, comments: true }));
  }

  private forget(piece: string): void {
    this.at.delete(piece);
    this.leaves.get(piece)?.();
    this.leaves.delete(piece);
  }

  private hear(told: Told | { readonly type: 'gap' }): void {
    if (told.type === 'gap') {
      // What was told in a gap is gone: it may have been about comments, or about who may see what.
      for (const piece of this.at.keys()) this.commented(piece);
      void this.checkRights();
    } else if (told.type === 'pad' && this.at.has(told.piece))
      this.write(eventOf('pad', { piece: told.piece, button: told.button } satisfies PadPress));
    else if (told.type === 'comments' && this.at.has(told.piece)) this.commented(told.piece);
    else if (told.type === 'presence' && this.at.has(told.piece)) {
      const { type: _type, ...presence } = told;
      this.write(eventOf('presence', presence satisfies Presence));
    } else if (told.type === 'rights' && (told.person === this.person || (told.piece !== undefined && this.at.has(told.piece))))
      void this.rightsChanged(told);
  }

  /** Whoever still sees the piece may do something else with it now: it is opened anew. */
  private async rightsChanged({ piece, person }: Extract<Told, { type: 'rights' }>): Promise<void> {
    await this.checkRights();
    if (piece !== undefined && this.at.has(piece) && (person === undefined || person === this.person)) this.behind(piece);
  }

  /** Who was signed out gets nothing any more, and nobody gets a piece that he may not see now. */
  private async checkRights(): Promise<void> {
    try {
      const person = await personOfSession(this.token);
      if (person?.id !== this.person) {
        this.write('event: signed-out\ndata: 0\n\n');
        return this.close();
      }
      const visible = await visibleOf(this.person, [...this.at.keys()]);
      for (const piece of [...this.at.keys()]) if (!visible.has(piece)) this.gone(piece);
    } catch (error) {
      log.warn({ err: error }, 'could not look for rights; the stream ends, and its reader asks again');
      this.close();
    }
  }
}

const eventOf = (event: string, data: object) => `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`;
