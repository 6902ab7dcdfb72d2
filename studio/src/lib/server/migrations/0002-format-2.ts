import { QueryTypes, type QueryInterface, type Transaction } from 'sequelize';

/**
 * Brings every piece to format 2: its newest snapshot and the log after it, as they were written, give the piece of that time;
 * in the new format it becomes the snapshot at its own revision, so that the older log is never applied again. All older
 * snapshots stay. What format 2 is, and how an operation changed a document then, is written out here, so that this
 * means the same whatever the rest of the program becomes.
 */
export async function up({ sequelize }: QueryInterface, transaction: Transaction): Promise<void> {
  const select = <T extends object>(sql: string, bind: unknown[]) => sequelize.query<T>(sql, { type: QueryTypes.SELECT, bind, transaction });
  const pieces = await select<{ id: string; revision: number }>('SELECT id, revision FROM pieces', []);
  for (const { id, revision } of pieces) {
    const [snapshot] = await select<{ revision: number; body: Document }>(
      'SELECT revision, body FROM snapshots WHERE piece_id = $1 AND revision <= $2 ORDER BY revision DESC LIMIT 1',
      [id, revision]
    );
    if (!snapshot) continue;
    const log = await select<{ operations: Operation[] }>(
      'SELECT operations FROM batches WHERE piece_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision',
      [id, snapshot.revision, revision]
    );
    const document = snapshot.body;
    for (const { operations } of log) for (const operation of operations) applyTo(document, operation);
    const body = document['format'] === 'zany-thread/1' ? inFormat2(document) : document;
    await sequelize.query(
      `INSERT INTO snapshots (piece_id, revision, body) VALUES ($1, $2, $3)
       ON CONFLICT (piece_id, revision) DO UPDATE SET body = excluded.body`,
      { bind: [id, revision, JSON.stringify(body)], transaction }
    );
  }
}

type Document = Record<string, unknown>;
type Entity = Record<string, unknown> & { id: string };

type Operation =
  | { op: 'put'; table: string; value: Entity }
  | { op: 'set'; table: string; id: string; path: string[]; value?: unknown }
  | { op: 'remove'; table: string; id: string };

/** Batches in the log were judged when they were saved, so they are only carried out here. */
function applyTo(document: Document, operation: Operation): void {
  if (operation.op === 'put') tableOf(document, operation.table)[operation.value.id] = operation.value;
  else if (operation.op === 'remove') remove(document, operation.table, operation.id);
  else {
    const { table, id, path, value } = operation;
    const entity = table === 'piece' ? document : tableOf(document, table)[id];
    if (entity) setAt(entity, path, value);
  }
}

const tableOf = (document: Document, table: string): Record<string, Entity> => (document[table] ??= {}) as Record<string, Entity>;

function setAt(entity: Record<string, unknown>, path: readonly string[], value: unknown): void {
  let at = entity;
  for (const step of path.slice(0, -1)) at = (at[step] ??= {}) as Record<string, unknown>;
  const last = path.at(-1)!;
  if (value === undefined) delete at[last];
  else at[last] = value;
}

/** With all that belonged to it: a scene's layers, a group's layers, their threads, and its place among the starts. */
function remove(document: Document, table: string, id: string): void {
  const layers = tableOf(document, 'layers');
  const belongs = (field: string) => Object.values(layers).filter((layer) => layer[field] === id);
  if (table === 'scenes') {
    for (const layer of belongs('scene')) remove(document, 'layers', layer.id);
    document['start'] = ((document['start'] ?? []) as string[]).filter((start) => start !== id);
  }
  if (table === 'layers') for (const layer of belongs('parent')) remove(document, 'layers', layer.id);
  for (const thread of Object.values(tableOf(document, 'threads'))) if (thread['owner'] === id) delete tableOf(document, 'threads')[thread.id];
  delete tableOf(document, table)[id];
}

/** From format 2 on `{…}` in a text is an expression, and there are variables: braces that were only braces are kept as such. */
function inFormat2(document: Document): Document {
  const layers = Object.fromEntries(
    Object.entries(tableOf(document, 'layers')).map(([id, layer]) => {
      const looks = layer['looks'] as Record<string, Record<string, unknown>> | undefined;
      const plain = looks && Object.fromEntries(Object.entries(looks).map(([name, look]) => [name, escaped(look)]));
      return [id, { ...escaped(layer), ...(plain && { looks: plain }) }];
    })
  );
  return { ...document, format: 'zany-thread/2', layers, variables: document['variables'] ?? {} };
}

const escaped = <T extends Record<string, unknown>>(value: T): T =>
  typeof value['text'] === 'string' ? { ...value, text: value['text'].replace(/[\\{]/g, '\\$&') } : value;
