import { setTimeout as sleep } from 'node:timers/promises';
import { Visitor } from './client.ts';
import { scripts, type Tell } from './scripts.ts';

/**
 * Kills a server hard, again and again, while people save: every edit that was acknowledged must be there once, and each
 * person's edits in the order in which they were made. Edits without an answer are sent again, as a browser does.
 */
export async function kills(databaseUrl: string, times: number, tell: Tell): Promise<void> {
  const { startStudio, freePort } = await scripts();
  const port = await freePort();
  const options = { port, databaseUrl, demo: true, logLevel: 'silent' };
  let server = await startStudio(options);
  const base = `http://localhost:${port}`;
  const owner = new Visitor(base);
  await owner.enterDemo();
  const { value } = await owner.ask<{ id: string }>('POST', '/api/pieces', { name: 'Killed', width: 390, height: 844 });
  const piece = value.id;
  const acknowledged = new Map<string, number>();
  let stopped = false;
  const problems: string[] = [];
  const editors = Array.from({ length: 6 }, async (_, editor) => {
    for (let n = 0; !stopped; n++) {
      const id = `k${editor}x${n}`;
      const operations = [{ op: 'set', table: 'piece', id: piece, path: ['name'], value: id }];
      for (;;) {
        const answer = await owner
          .ask<{ results?: { revision?: number }[] }>('POST', `/api/pieces/${piece}/batches`, { batches: [{ id, name: 'Rename', operations }] })
          .catch(() => null);
        const revision = answer?.value.results?.[0]?.revision;
        if (revision !== undefined) {
          acknowledged.set(id, revision);
          break;
        }
        if (answer && answer.status < 500) problems.push(`${id} was answered with ${answer.status}`);
        await sleep(50);
      }
    }
  });
  for (let i = 0; i < times; i++) {
    await sleep(150 + Math.random() * 500);
    server.kill('SIGKILL');
    server = await startStudio(options);
  }
  await sleep(300);
  stopped = true;
  await Promise.all(editors);
  problems.push(...(await judge(databaseUrl, piece, acknowledged)));
  const opened = await owner.ask<{ piece: { name: string }; revision: number }>('GET', `/api/pieces/${piece}`);
  const last = [...acknowledged].sort((a, b) => b[1] - a[1])[0]!;
  if (opened.value.piece.name !== last[0]) problems.push(`the piece is called ${opened.value.piece.name}, not ${last[0]}`);
  owner.close();
  server.kill('SIGTERM');
  const words = problems.length ? `: ${problems.slice(0, 3).join('; ')}` : '';
  tell(`${times} hard kills of the server while six people save`, `${problems.length} of ${acknowledged.size} edits wrong${words}`, '0');
}

async function judge(databaseUrl: string, piece: string, acknowledged: ReadonlyMap<string, number>): Promise<string[]> {
  const { default: pg } = (await import('pg')) as unknown as {
    default: {
      Client: new (options: object) => {
        connect(): Promise<void>;
        query(sql: string, values: unknown[]): Promise<{ rows: Row[] }>;
        end(): Promise<void>;
      };
    };
  };
  interface Row {
    readonly id: string;
    readonly revision: number;
  }
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query('SELECT id, revision FROM batches WHERE piece_id = $1 ORDER BY revision', [piece]);
  await client.end();
  const problems: string[] = [];
  const at = new Map(rows.map(({ id, revision }) => [id, revision]));
  if (at.size !== rows.length) problems.push('an edit stands twice');
  rows.forEach(({ revision }, i) => revision !== i + 1 && problems.push(`revision ${i + 1} is missing`));
  for (const [id, revision] of acknowledged)
    if (at.get(id) !== revision) problems.push(`${id} was acknowledged as ${revision} and stands at ${at.get(id)}`);
  const newest = new Map<string, number>();
  for (const { id } of rows) {
    const [editor, n] = id.slice(1).split('x') as [string, string];
    if (Number(n) !== (newest.get(editor) ?? -1) + 1) problems.push(`${id} is out of order`);
    newest.set(editor, Number(n));
  }
  return problems;
}
