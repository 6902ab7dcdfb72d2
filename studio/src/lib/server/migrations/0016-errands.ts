import type { QueryInterface, Transaction } from 'sequelize';

/** Long work that servers do for people: what is asked for, how it stands, and what came of it. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE errands (
      id text PRIMARY KEY,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      wish jsonb NOT NULL,
      -- What else decides what comes of it, as it was when it was asked for.
      pinned jsonb NOT NULL,
      revision integer NOT NULL,
      state text NOT NULL DEFAULT 'waiting',
      said text,
      problem text,
      -- So often a server began with it, and when the last one of them was last at it.
      tries integer NOT NULL DEFAULT 0,
      alive_at timestamptz NOT NULL DEFAULT now(),
      name text,
      media_type text,
      bytes bytea,
      left_out jsonb NOT NULL DEFAULT '[]',
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX errands_of ON errands (person_id, piece_id);
    -- What is being made already is not made twice.
    CREATE UNIQUE INDEX errands_once ON errands (person_id, piece_id, revision, wish, pinned) WHERE state IN ('waiting', 'at work');
    CREATE INDEX errands_open ON errands (alive_at) WHERE state IN ('waiting', 'at work');
  `,
    { transaction }
  );
