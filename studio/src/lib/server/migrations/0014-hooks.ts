import type { QueryInterface, Transaction } from 'sequelize';

/** Addresses that are told what happens to a piece, with the secret that what is told is signed with. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE hooks (
      id text PRIMARY KEY,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      address text NOT NULL,
      events text[] NOT NULL,
      secret text NOT NULL,
      by_name text NOT NULL,
      answered jsonb,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX hooks_piece ON hooks (piece_id);
  `,
    { transaction }
  );
