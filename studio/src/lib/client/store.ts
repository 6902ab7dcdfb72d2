import type { Batch, Operation } from '@zany/core';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** What a browser keeps: batches that are not acknowledged yet, and what each tab can undo. */
interface Kept extends DBSchema {
  pending: { key: number; value: { piece: string; batch: Batch }; indexes: { piece: string } };
  history: { key: string; value: { key: string; at: number; history: History } };
}

export interface HistoryEntry {
  readonly name: string;
  readonly undo: Operation[];
  readonly redo: Operation[];
}

export interface History {
  readonly undo: HistoryEntry[];
  readonly redo: HistoryEntry[];
}

let opened: Promise<IDBPDatabase<Kept>> | null = null;

const kept = () =>
  (opened ??= openDB<Kept>('zany-thread', 1, {
    upgrade(database) {
      database.createObjectStore('pending', { autoIncrement: true }).createIndex('piece', 'piece');
      database.createObjectStore('history', { keyPath: 'key' });
    },
  }));

/** Batches of a piece in the order they were made. */
export async function keptBatches(piece: string): Promise<Batch[]> {
  return (await (await kept()).getAllFromIndex('pending', 'piece', piece)).map(({ batch }) => batch);
}

export async function keepBatch(piece: string, batch: Batch): Promise<void> {
  await (await kept()).add('pending', { piece, batch });
}

export async function forgetBatches(piece: string, ids: ReadonlySet<string>): Promise<void> {
  const transaction = (await kept()).transaction('pending', 'readwrite');
  for (let cursor = await transaction.store.index('piece').openCursor(piece); cursor; cursor = await cursor.continue())
    if (ids.has(cursor.value.batch.id)) await cursor.delete();
  await transaction.done;
}

const MONTH = 30 * 24 * 3600 * 1000;

/** Each tab has a history of its own, which outlives a reload. */
const historyKey = (piece: string): string => {
  let tab = sessionStorage.getItem('zany-tab');
  if (!tab) sessionStorage.setItem('zany-tab', (tab = crypto.randomUUID()));
  return `${tab}/${piece}`;
};

export async function keptHistory(piece: string): Promise<History> {
  return (await (await kept()).get('history', historyKey(piece)))?.history ?? { undo: [], redo: [] };
}

export async function keepHistory(piece: string, history: History): Promise<void> {
  await (await kept()).put('history', { key: historyKey(piece), at: Date.now(), history });
}

/** Forgets what tabs closed long ago could undo. */
export async function tidyHistories(): Promise<void> {
  const transaction = (await kept()).transaction('history', 'readwrite');
  for (let cursor = await transaction.store.openCursor(); cursor; cursor = await cursor.continue())
    if (Date.now() - cursor.value.at > MONTH) await cursor.delete();
  await transaction.done;
}
