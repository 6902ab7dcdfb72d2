import type { QueryInterface, Transaction } from 'sequelize';

/** Comments by members and by holders of links, and which of them somebody has seen. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE comments (
      id text PRIMARY KEY,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      root text REFERENCES comments ON DELETE CASCADE,
      place jsonb,
      body text NOT NULL,
      person_id text REFERENCES people ON DELETE SET NULL,
      holder_id text REFERENCES holders ON DELETE SET NULL,
      by_name text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      changed_at timestamptz,
      resolved_at timestamptz,
      resolved_by text,
      CHECK ((root IS NULL) = (place IS NOT NULL))
    );
    CREATE INDEX comments_piece ON comments (piece_id, created_at);
    CREATE TABLE comments_seen (
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      root text NOT NULL REFERENCES comments ON DELETE CASCADE,
      at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (person_id, root)
    );
  `,
    { transaction }
  );
