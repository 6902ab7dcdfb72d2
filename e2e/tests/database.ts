interface Client {
  connect: () => Promise<void>;
  query: (sql: string) => Promise<{ rows: { count: string }[] }>;
  end: () => Promise<void>;
}

/** Asks one database one thing. */
export async function ask(url: string, sql: string): Promise<{ count: string }[]> {
  const { default: pg } = (await import('pg')) as unknown as { default: { Client: new (options: object) => Client } };
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(sql)).rows;
  } finally {
    await client.end();
  }
}

/** An empty database beside another one. */
export async function databaseBeside(cluster: string): Promise<{ readonly url: string; readonly drop: () => Promise<unknown> }> {
  const name = `beside_${process.pid}_${Date.now()}`;
  await ask(cluster, `CREATE DATABASE ${name}`);
  const url = new URL(cluster);
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => ask(cluster, `DROP DATABASE ${name} WITH (FORCE)`) };
}
