import pg from 'pg';
import { QueryTypes, Sequelize, type QueryInterface, type Transaction } from 'sequelize';
import { Umzug } from 'umzug';
import { config } from './config';
import { log } from './log';
import { defineModels } from './models';

let connection: Sequelize | null = null;

/** The connection, made at first use: building the application needs none. */
export function database(): Sequelize {
  if (!connection) {
    connection = new Sequelize(config.databaseUrl, { dialect: 'postgres', logging: false, pool: { max: 12, idle: 30_000, acquire: 20_000 } });
    defineModels(connection);
  }
  return connection;
}

/** Asks with `$1`, `$2` … in the text; gives the rows. */
export function rows<T extends object>(sql: string, bind: readonly unknown[] = [], transaction?: Transaction): Promise<T[]> {
  return database().query<T>(sql, { bind: [...bind], type: QueryTypes.SELECT, ...(transaction && { transaction }) });
}

interface Migration {
  readonly up: (queries: QueryInterface, transaction: Transaction) => Promise<unknown>;
}

const modules = import.meta.glob<Migration>('./migrations/*.ts', { eager: true });

/** Servers that start at once must not migrate at once: the others wait for the first. */
const MIGRATION_LOCK = 7_391_204;

/** Runs some work while no other server does any of the same kind. The lock ends with the connection, however that ends. */
export async function alone<T>(lock: number, work: () => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: config.databaseUrl });
  await client.connect();
  // Losing the connection is noticed by what is done meanwhile.
  client.on('error', () => undefined);
  try {
    await client.query('SELECT pg_advisory_lock($1)', [lock]);
    return await work();
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** Brings the database up to date: one server at a time, each migration in one transaction with its entry. */
export const migrate = (): Promise<void> => alone(MIGRATION_LOCK, migrateAlone);

async function migrateAlone(): Promise<void> {
  const sequelize = database();
  await sequelize.query('CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY)');
  const umzug = new Umzug({
    migrations: Object.entries(modules).map(([path, module]) => {
      const name = path.replace(/^.*\//, '');
      return { name, up: () => sequelize.transaction((transaction) => runOne(name, module, transaction)) };
    }),
    storage: {
      executed: async () => (await rows<{ name: string }>('SELECT name FROM migrations ORDER BY name')).map(({ name }) => name),
      // Logged in the transaction of the migration itself.
      logMigration: async () => undefined,
      unlogMigration: async () => undefined,
    },
    logger: undefined,
  });
  const done = await umzug.up();
  if (done.length) log.info({ migrations: done.map(({ name }) => name) }, 'migrated the database');
}

async function runOne(name: string, { up }: Migration, transaction: Transaction): Promise<void> {
  await up(database().getQueryInterface(), transaction);
  await database().query('INSERT INTO migrations VALUES ($1)', { bind: [name], transaction });
}

/** Whether the database answers within two seconds. */
export async function isAnswering(): Promise<boolean> {
  const late = new Promise<boolean>((resolve) => setTimeout(() => resolve(false), 2000).unref());
  const asked = database()
    .query('SELECT 1')
    .then(
      () => true,
      () => false
    );
  return Promise.race([asked, late]);
}

export async function disconnect(): Promise<void> {
  await connection?.close();
  connection = null;
}
