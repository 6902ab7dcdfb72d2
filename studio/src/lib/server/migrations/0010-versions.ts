import type { QueryInterface, Transaction } from 'sequelize';

/** Versions that somebody gave a name, and of every edit how many operations it has, to know before which a version is worth keeping. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE versions (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      revision integer NOT NULL,
      name text NOT NULL,
      by_name text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (piece_id, revision)
    );
    ALTER TABLE batches ADD COLUMN size integer;
  `,
    { transaction }
  );
