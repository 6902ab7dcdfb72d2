import { Sequelize, type QueryInterface } from 'sequelize';
import { Umzug } from 'umzug';
import { config } from './config';
import { log } from './log';
import { defineModels } from './models';

let connection: Sequelize | null = null;

/** The connection, made at first use: building the application needs none. */
export function database(): Sequelize {
  if (!connection) {
    connection = new Sequelize(config.databaseUrl, { dialect: 'postgres', logging: false, pool: { max: 10, idle: 30_000 } });
    defineModels(connection);
  }
  return connection;
}

const modules = import.meta.glob<{ up: (queries: QueryInterface) => Promise<unknown> }>('./migrations/*.ts', { eager: true });

/** Two servers that start at once must not both migrate: the second waits for the first. */
const MIGRATION_LOCK = 7_391_204;

export async function migrate(): Promise<void> {
  const sequelize = database();
  const queries = sequelize.getQueryInterface();
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`SELECT pg_advisory_xact_lock(${MIGRATION_LOCK})`, { transaction });
    await sequelize.query('CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY)', { transaction });
  });
  const umzug = new Umzug({
    migrations: Object.entries(modules).map(([path, module]) => ({ name: path.replace(/^.*\//, ''), up: () => module.up(queries) })),
    storage: {
      executed: async () => (await sequelize.query('SELECT name FROM migrations ORDER BY name'))[0].map((row) => (row as { name: string }).name),
      logMigration: async ({ name }) => void (await sequelize.query('INSERT INTO migrations VALUES (:name)', { replacements: { name } })),
      unlogMigration: async ({ name }) => void (await sequelize.query('DELETE FROM migrations WHERE name = :name', { replacements: { name } })),
    },
    logger: undefined,
  });
  const done = await umzug.up();
  if (done.length) log.info({ migrations: done.map(({ name }) => name) }, 'migrated the database');
}

export async function disconnect(): Promise<void> {
  await connection?.close();
  connection = null;
}
