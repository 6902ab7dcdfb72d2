import { FORMAT, migratedEdit, takesEditsOf, type Batch, type Fault, type Operation } from '@zany/core';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { forgetLeft, leaveAtLast, leftAtLast } from './last-moment';
import type { Refused } from './saving';

/** What a browser keeps, by the person who made it: edits not acknowledged yet, edits set aside, and what each tab can undo. */
interface Kept extends DBSchema {
  /** Up to version 1, without an owner: taken over as set aside. */
  pending: { key: number; value: { piece: string; batch: Batch }; indexes: { piece: string } };
  waiting: { key: number; value: Owned & { batch: Batch }; indexes: { owner: [string, string] } };
  aside: { key: number; value: Owned & Aside; indexes: { owner: [string, string] } };
  history: { key: string; value: { key: string; at: number; format?: string; history: History } };
}

/** Whose it is, of which piece, and in which format it was made. */
interface Owned {
  readonly person: string;
  readonly piece: string;
  readonly format: string;
}

/** An edit that could not be saved, with why and when. */
export interface Aside {
  readonly batch: Batch;
  readonly why: Fault;
  /** Milliseconds since 1970. */
  readonly at: number;
}

export interface KeptAside extends Aside {
  readonly key: number;
  readonly format: string;
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

interface LeftEdits {
  readonly format: string;
  readonly batches: readonly Batch[];
}

interface LeftHistory {
  readonly format: string;
  readonly history: History;
}

/** Edits kept in a format that is still taken. */
const ofToday = (operations: Operation[], format: string): Operation[] => (format === FORMAT ? operations : operations.map(migratedEdit));

/** A browser that does not answer within this many milliseconds keeps nothing. */
const PATIENCE = 3000;

/** Nobody knows who made what was kept without an owner; it is there for whoever opens the piece, but not sent in his name. */
const NOBODY = '';

const NO_ANSWER = 'The browser does not say whether it keeps anything.';

function inTime<T>(work: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new Error(NO_ANSWER)), PATIENCE);
    work.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}

let opened: Promise<IDBPDatabase<Kept>> | null = null;

/** The database; asked for again after it could not be opened. */
function kept(): Promise<IDBPDatabase<Kept>> {
  opened ??= inTime(open()).catch((error: unknown) => {
    opened = null;
    throw error;
  });
  return opened;
}

const open = () =>
  openDB<Kept>('zany-thread', 2, {
    async upgrade(database, from, _to, transaction) {
      if (from < 1) {
        database.createObjectStore('pending', { autoIncrement: true }).createIndex('piece', 'piece');
        database.createObjectStore('history', { keyPath: 'key' });
      }
      database.createObjectStore('waiting', { autoIncrement: true }).createIndex('owner', ['person', 'piece']);
      database.createObjectStore('aside', { autoIncrement: true }).createIndex('owner', ['person', 'piece']);
      const why: Fault = { code: 'no-owner', path: [], sentence: 'It was kept by an older version, which did not note who made it.' };
      for (const { piece, batch } of await transaction.objectStore('pending').getAll())
        await transaction.objectStore('aside').add({ person: NOBODY, piece, format: 'zany-thread/2', batch, why, at: Date.now() });
      await transaction.objectStore('pending').clear();
    },
    // A newer page in another tab must not wait for this one.
    blocking: (_current, _wanted, event) => (event.target as IDBDatabase).close(),
    terminated: () => (opened = null),
  });

/** What one person has kept of one piece in this browser. */
export class PersonalStore {
  constructor(
    private readonly person: string,
    private readonly piece: string
  ) {}

  private get owned(): Owned {
    return { person: this.person, piece: this.piece, format: FORMAT };
  }

  /** Whether the browser keeps anything at all: tried, since many refuse only when something is written. */
  async works(): Promise<boolean> {
    try {
      const database = await kept();
      const key = await inTime(
        database.add('waiting', { person: 'trial', piece: 'trial', format: FORMAT, batch: { id: 't', name: 't', operations: [] } })
      );
      await inTime(database.delete('waiting', key));
      return true;
    } catch {
      return false;
    }
  }

  /** Keeps what is still on its way into the database, as the window goes. It may be there as well. */
  leave(batches: readonly Batch[], history: History | null): void {
    // Two windows that go at once leave each their own.
    if (batches.length) leaveAtLast(() => localStorage, `${this.leftKey}/${batches[0]!.id}`, { format: FORMAT, batches } satisfies LeftEdits);
    if (history) leaveAtLast(() => sessionStorage, this.leftHistoryKey, { format: FORMAT, history } satisfies LeftHistory);
  }

  private get leftKey(): string {
    return `zany-left/${this.person}/${this.piece}`;
  }

  /** Puts what was left at the last moment where all edits are kept. */
  private async takeUp(database: IDBPDatabase<Kept>): Promise<void> {
    for (const [key, value] of leftAtLast(() => localStorage, `${this.leftKey}/`)) {
      const { format, batches } = value as LeftEdits;
      const there = await inTime(database.getAllFromIndex('waiting', 'owner', [this.person, this.piece]));
      const known = new Set(there.map(({ batch }) => batch.id));
      for (const batch of batches.filter(({ id }) => !known.has(id))) await inTime(database.add('waiting', { ...this.owned, format, batch }));
      forgetLeft(() => localStorage, key);
    }
  }

  /** Edits in the order they were made. Those in another format than today's are set aside: this page cannot say what they mean. */
  async waiting(): Promise<Batch[]> {
    const database = await kept();
    await this.takeUp(database);
    const all = await inTime(database.getAllFromIndex('waiting', 'owner', [this.person, this.piece]));
    const [now, other] = [all.filter(({ format }) => takesEditsOf(format)), all.filter(({ format }) => !takesEditsOf(format))];
    if (other.length) {
      const why = (format: string): Fault => ({
        code: 'other-format',
        path: [],
        sentence: `It was made in ${format}; this page works in ${FORMAT}.`,
      });
      for (const { batch, format } of other) await database.add('aside', { ...this.owned, format, batch, why: why(format), at: Date.now() });
      await this.forget(new Set(other.map(({ batch }) => batch.id)));
    }
    return now.map(({ batch, format }) => ({ ...batch, operations: ofToday(batch.operations, format) }));
  }

  async keep(batch: Batch): Promise<void> {
    await inTime((await kept()).add('waiting', { ...this.owned, batch }));
  }

  async forget(ids: ReadonlySet<string>): Promise<void> {
    const transaction = (await kept()).transaction('waiting', 'readwrite');
    const index = transaction.store.index('owner');
    for (let cursor = await index.openCursor([this.person, this.piece]); cursor; cursor = await cursor.continue())
      if (ids.has(cursor.value.batch.id)) await cursor.delete();
    await transaction.done;
  }

  async setAside(refused: readonly Refused[]): Promise<void> {
    const transaction = (await kept()).transaction('aside', 'readwrite');
    for (const { batch, why } of refused) await transaction.store.add({ ...this.owned, batch, why, at: Date.now() });
    await transaction.done;
  }

  /** What is set aside, the oldest first. */
  async aside(): Promise<KeptAside[]> {
    const database = await kept();
    const found: KeptAside[] = [];
    for (const person of [this.person, NOBODY])
      for (const key of await inTime(database.getAllKeysFromIndex('aside', 'owner', [person, this.piece]))) {
        const value = await database.get('aside', key);
        if (value) found.push({ key, batch: value.batch, why: value.why, at: value.at, format: value.format });
      }
    return found.sort((a, b) => a.key - b.key);
  }

  async dropAside(keys: readonly number[]): Promise<void> {
    const transaction = (await kept()).transaction('aside', 'readwrite');
    for (const key of keys) await transaction.store.delete(key);
    await transaction.done;
  }

  /** Each tab has a history of its own, which outlives a reload. */
  private get historyKey(): string {
    let tab = sessionStorage.getItem('zany-tab');
    if (!tab) sessionStorage.setItem('zany-tab', (tab = crypto.randomUUID()));
    return `${tab}/${this.person}/${this.piece}`;
  }

  private get leftHistoryKey(): string {
    return `zany-left-history/${this.historyKey}`;
  }

  async history(): Promise<History> {
    const [left] = leftAtLast(() => sessionStorage, this.leftHistoryKey).values();
    const found = (left as LeftHistory | undefined) ?? (await inTime((await kept()).get('history', this.historyKey)));
    if (found?.format === undefined || !takesEditsOf(found.format)) return { undo: [], redo: [] };
    const { format, history } = found;
    const entries = (list: HistoryEntry[]) =>
      list.map((entry) => ({ ...entry, undo: ofToday(entry.undo, format), redo: ofToday(entry.redo, format) }));
    return { undo: entries(history.undo), redo: entries(history.redo) };
  }

  async keepHistory(history: History): Promise<void> {
    await (await kept()).put('history', { key: this.historyKey, at: Date.now(), format: FORMAT, history });
    forgetLeft(() => sessionStorage, this.leftHistoryKey);
  }
}

const MONTH = 30 * 24 * 3600 * 1000;

/** Forgets what tabs closed long ago could undo. */
export async function tidyHistories(): Promise<void> {
  const transaction = (await kept()).transaction('history', 'readwrite');
  for (let cursor = await transaction.store.openCursor(); cursor; cursor = await cursor.continue())
    if (Date.now() - cursor.value.at > MONTH) await cursor.delete();
  await transaction.done;
}
