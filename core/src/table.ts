/**
 * A persistent table of entities by id: `set` and `delete` return a new table and leave the old one as it was.
 *
 * Entities live in buckets chosen by a hash of the id, so one change copies the list of buckets and one bucket,
 * about `sqrt(n)` references, whatever the entities hold. Nothing changed means the same table comes back.
 */
export class Table<T> {
  /** By its buckets, which are never changed any more. */
  constructor(
    readonly buckets: readonly (ReadonlyMap<string, T> | undefined)[],
    readonly size: number
  ) {}

  static empty<T>(): Table<T> {
    return new Table<T>(new Array<undefined>(BUCKETS).fill(undefined), 0);
  }

  /** Builds a table in one go; of two entries with one id the later stays. */
  static from<T>(entries: Iterable<readonly [string, T]>): Table<T> {
    const buckets = new Array<Map<string, T> | undefined>(BUCKETS).fill(undefined);
    let size = 0;
    for (const [id, value] of entries) {
      const at = bucketOf(id);
      const bucket = (buckets[at] ??= new Map());
      if (!bucket.has(id)) size++;
      bucket.set(id, value);
    }
    return new Table<T>(buckets, size);
  }

  get(id: string): T | undefined {
    return this.buckets[bucketOf(id)]?.get(id);
  }

  has(id: string): boolean {
    return this.buckets[bucketOf(id)]?.has(id) ?? false;
  }

  set(id: string, value: T): Table<T> {
    const at = bucketOf(id);
    const old = this.buckets[at];
    const had = old?.has(id) ?? false;
    if (had && old?.get(id) === value) return this;
    return this.withBucket(at, new Map(old).set(id, value), this.size + (had ? 0 : 1));
  }

  delete(id: string): Table<T> {
    const at = bucketOf(id);
    const old = this.buckets[at];
    if (!old?.has(id)) return this;
    const bucket = new Map(old);
    bucket.delete(id);
    return this.withBucket(at, bucket, this.size - 1);
  }

  *entries(): IterableIterator<[string, T]> {
    for (const bucket of this.buckets) if (bucket) yield* bucket.entries();
  }

  *values(): IterableIterator<T> {
    for (const bucket of this.buckets) if (bucket) yield* bucket.values();
  }

  *keys(): IterableIterator<string> {
    for (const bucket of this.buckets) if (bucket) yield* bucket.keys();
  }

  private withBucket(at: number, bucket: ReadonlyMap<string, T>, size: number): Table<T> {
    const buckets = this.buckets.slice();
    buckets[at] = bucket;
    return new Table<T>(buckets, size);
  }
}

/** A table with many entries set at once: the list of buckets is copied once, and each bucket that is touched. */
export function setAll<T>(table: Table<T>, entries: Iterable<readonly [string, T]>): Table<T> {
  let buckets: (ReadonlyMap<string, T> | undefined)[] | null = null;
  const own = new Map<number, Map<string, T>>();
  let { size } = table;
  for (const [id, value] of entries) {
    const at = bucketOf(id);
    const old: ReadonlyMap<string, T> | undefined = own.get(at) ?? table.buckets[at];
    const had = old?.has(id) ?? false;
    if (had && old?.get(id) === value) continue;
    if (!had) size++;
    const bucket = own.get(at) ?? new Map(table.buckets[at]);
    own.set(at, bucket.set(id, value));
    (buckets ??= table.buckets.slice())[at] = bucket;
  }
  return buckets ? new Table<T>(buckets, size) : table;
}

/** The ids under which two tables do not hold the same. */
export function changedIn<T>(old: Table<T>, now: Table<T>): string[] {
  const changed: string[] = [];
  old.buckets.forEach((bucket, at) => {
    const other = now.buckets[at];
    if (bucket === other) return;
    for (const [id, one] of bucket ?? []) if (other?.get(id) !== one) changed.push(id);
    for (const id of other?.keys() ?? []) if (!bucket?.has(id)) changed.push(id);
  });
  return changed;
}

const BUCKETS = 256;

/** FNV-1a over the id's UTF-16 units, folded to a bucket number. */
function bucketOf(id: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193);
  return (hash ^ (hash >>> 15)) & (BUCKETS - 1);
}
