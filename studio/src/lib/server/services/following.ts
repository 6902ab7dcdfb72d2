import { Op } from 'sequelize';
import type { FollowedBatch, PadPress, Person } from '$lib/shared/types';
import { log } from '../log';
import { onNews, onPad, onPresence } from '../listen';
import { BatchRow } from '../models';
import { access } from './rights';

const streams = new Set<() => void>();

/** Ends every stream, so that the server can stop. */
export function closeStreams(): void {
  for (const close of [...streams]) close();
}

const HEARTBEAT = 20_000;

/**
 * A stream of server-sent events with every batch of some pieces after a revision of each. The id of an event tells the
 * place in all of them, so that a browser that connects again goes on where it was. Presses on pads and where people are come
 * in between; one that was missed is gone.
 */
export async function follow(person: Person | null, from: ReadonlyMap<string, number>): Promise<ReadableStream<Uint8Array>> {
  for (const piece of from.keys()) await access(person, piece, 'reviewer');
  const at = new Map(from);
  const encoder = new TextEncoder();
  let end = () => {};
  return new ReadableStream({
    start(controller) {
      const write = (text: string) => controller.enqueue(encoder.encode(text));
      const queue = new Map<string, Promise<void>>();
      const catchUp = (piece: string) => {
        const last = queue.get(piece) ?? Promise.resolve();
        queue.set(
          piece,
          last.then(() => sendNews(piece, at, write)).catch((error: unknown) => log.warn({ err: error }, 'could not send news'))
        );
      };
      const stop = onNews((piece) => {
        if (piece === null) for (const each of at.keys()) catchUp(each);
        else if (at.has(piece)) catchUp(piece);
      });
      const stopPad = onPad((piece, button) => {
        const press: PadPress = { piece, button };
        if (at.has(piece)) write(`event: pad\ndata: ${JSON.stringify(press)}\n\n`);
      });
      const stopPresence = onPresence((piece, json) => {
        if (at.has(piece)) write(`event: presence\ndata: ${json}\n\n`);
      });
      const beat = setInterval(() => write(': still here\n\n'), HEARTBEAT);
      end = () => {
        clearInterval(beat);
        stop();
        stopPad();
        stopPresence();
        streams.delete(close);
      };
      const close = () => {
        end();
        controller.close();
      };
      streams.add(close);
      write('retry: 1000\n\n');
      for (const piece of at.keys()) catchUp(piece);
    },
    cancel: () => end(),
  });
}

async function sendNews(piece: string, at: Map<string, number>, write: (text: string) => void): Promise<void> {
  const rows = await BatchRow.findAll({ where: { pieceId: piece, revision: { [Op.gt]: at.get(piece)! } }, order: ['revision'], limit: 500 });
  for (const row of rows) {
    at.set(piece, row.revision);
    const news: FollowedBatch = {
      piece,
      revision: row.revision,
      by: row.personId,
      batch: { id: row.id, name: row.name, operations: row.operations },
    };
    write(`id: ${[...at].map(([id, revision]) => `${id}:${revision}`).join(',')}\nevent: batch\ndata: ${JSON.stringify(news)}\n\n`);
  }
  if (rows.length === 500) await sendNews(piece, at, write);
}
