import type { Entity, Head, Layer, Piece, PieceIndex, Scene, TableName, Thread } from '../piece/piece.ts';
import { byOrder, sceneOfThread } from '../piece/piece.ts';
import type { Table } from '../table.ts';
import type { Touched } from './touched.ts';

/** A piece while a batch is applied to it: persistent tables swapped as it goes, with a record of what changed. */
export class PieceDraft {
  headChanged = false;
  readonly before: Piece;
  private current: Piece;
  private readonly log = new Map<string, [TableName, string]>();

  constructor(piece: Piece) {
    this.before = piece;
    this.current = piece;
  }

  get piece(): Piece {
    return this.current;
  }

  get head(): Head {
    return this.current.head;
  }

  get(table: TableName, id: string): Entity | undefined {
    return this.current[table].get(id);
  }

  put(table: TableName, entity: Entity): void {
    const old = this.get(table, entity.id);
    this.note(table, entity.id);
    const next = (this.current[table] as Table<Entity>).set(entity.id, entity);
    this.current = { ...this.current, [table]: next, index: reindexed(this.current.index, table, old, entity) };
  }

  remove(table: TableName, id: string): void {
    const old = this.get(table, id);
    this.note(table, id);
    const next = (this.current[table] as Table<Entity>).delete(id);
    this.current = { ...this.current, [table]: next, index: reindexed(this.current.index, table, old, undefined) };
  }

  setHead(head: Head): void {
    this.headChanged = true;
    this.current = { ...this.current, head };
  }

  /** Whether an entity was put or removed since the draft was begun. */
  hasChanged(table: TableName, id: string): boolean {
    return this.log.has(`${table}/${id}`);
  }

  changed(): Iterable<[TableName, string]> {
    return this.log.values();
  }

  finish(): Piece {
    return this.current;
  }

  touched(): Touched {
    const { head } = this.current;
    const repainted = head.swatches !== this.before.head.swatches || head.typeStyles !== this.before.head.typeStyles;
    const scenes = new Set<string>(repainted ? this.current.scenes.keys() : []);
    let frames = this.headChanged;
    let pieceThreads = false;
    let variables = false;
    for (const [table, id] of this.log.values()) {
      variables ||= table === 'variables';
      for (const piece of [this.before, this.current]) {
        const place = placeOf(piece, table, id);
        if (place) scenes.add(place);
        if (table === 'threads' && piece.threads.get(id)?.on === 'piece') pieceThreads = true;
      }
    }
    for (const [table, id] of this.log.values()) if (table === 'scenes') frames ||= this.listChanged(id);
    return { scenes, frames, pieceThreads, variables };
  }

  /** Whether the list of frames looks another way because of this scene. */
  private listChanged(id: string): boolean {
    const before = this.before.scenes.get(id);
    const after = this.current.scenes.get(id);
    return (
      !before || !after || before.name !== after.name || before.use !== after.use || byOrder(before, after) !== 0 || before.draft !== after.draft
    );
  }

  private note(table: TableName, id: string): void {
    this.log.set(`${table}/${id}`, [table, id]);
  }
}

function placeOf(piece: Piece, table: TableName, id: string): string | null {
  if (table === 'scenes') return id;
  if (table === 'layers') return piece.layers.get(id)?.scene ?? null;
  if (table === 'variables') return piece.variables.get(id)?.scene ?? null;
  const thread = table === 'threads' ? piece.threads.get(id) : undefined;
  return thread ? sceneOfThread(piece, thread) : null;
}

function reindexed(index: PieceIndex, table: TableName, old: Entity | undefined, next: Entity | undefined): PieceIndex {
  const id = (old ?? next)?.id;
  if (id === undefined) return index;
  if (table === 'layers') {
    const [a, b] = [old as Layer | undefined, next as Layer | undefined];
    return {
      ...index,
      layersOf: moved(index.layersOf, id, a?.scene ?? null, b?.scene ?? null),
      childrenOf: moved(index.childrenOf, id, a?.parent ?? null, b?.parent ?? null),
    };
  }
  if (table !== 'threads') return index;
  const [a, b] = [old as Thread | undefined, next as Thread | undefined];
  return { ...index, threadsOf: moved(index.threadsOf, id, a?.owner ?? null, b?.owner ?? null) };
}

function moved(sets: Table<ReadonlySet<string>>, id: string, from: string | null, to: string | null): Table<ReadonlySet<string>> {
  if (from === to) return sets;
  let result = sets;
  if (from !== null) {
    const rest = new Set(result.get(from));
    rest.delete(id);
    result = rest.size ? result.set(from, rest) : result.delete(from);
  }
  return to === null ? result : result.set(to, new Set(result.get(to)).add(id));
}

export type { Scene };
