import type { QueryInterface, Transaction } from 'sequelize';

/**
 * What the Workroom shows is kept; long logs can be packed away; browsers that somebody has signed in with are known.
 * A batch that is packed away has no operations of its own any more: they stand in `packed_logs`, each a gzip of JSON, one list
 * of operations for each revision.
 */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE cards (
      piece_id text PRIMARY KEY REFERENCES pieces ON DELETE CASCADE,
      revision integer NOT NULL,
      frames integer NOT NULL,
      loose_ends integer,
      complete boolean NOT NULL,
      cover jsonb,
      problem text
    );
    ALTER TABLE batches ALTER COLUMN operations DROP NOT NULL;
    CREATE TABLE packed_logs (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      first integer NOT NULL,
      last integer NOT NULL,
      body bytea NOT NULL,
      PRIMARY KEY (piece_id, first)
    );
    CREATE TABLE devices (
      token_hash text PRIMARY KEY,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX devices_person ON devices (person_id);
    ALTER TABLE sessions ADD COLUMN seen timestamptz NOT NULL DEFAULT now();
  `,
    { transaction }
  );
