import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A picture that a scene is compared with, and how it lies there. */
export interface KeptReference {
  readonly file: Blob;
  readonly over: boolean;
  readonly opacity: number;
  readonly wipe: number;
}

interface Kept extends DBSchema {
  references: { key: string; value: KeptReference };
}

let opened: Promise<IDBPDatabase<Kept>> | null = null;

/** A database of its own: what waits to be saved is never held up by it. */
const kept = () => (opened ??= openDB<Kept>('zany-thread-references', 1, { upgrade: (database) => void database.createObjectStore('references') }));

const keyOf = (piece: string, scene: string) => `${piece}/${scene}`;

export async function keptReference(piece: string, scene: string): Promise<KeptReference | null> {
  return (await (await kept()).get('references', keyOf(piece, scene))) ?? null;
}

export async function keepReference(piece: string, scene: string, reference: KeptReference | null): Promise<void> {
  const database = await kept();
  await (reference ? database.put('references', reference, keyOf(piece, scene)) : database.delete('references', keyOf(piece, scene)));
}
