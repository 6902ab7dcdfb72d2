import type { QueryInterface, Transaction } from 'sequelize';

/** Review links, who holds them, and what those did. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE links (
      id text PRIMARY KEY,
      token text NOT NULL UNIQUE,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      name text NOT NULL,
      by_name text NOT NULL,
      may text NOT NULL CHECK (may IN ('look', 'walk', 'comment')),
      start text,
      bundle text,
      revision integer,
      hints boolean NOT NULL,
      tasks jsonb NOT NULL,
      password_hash text,
      expires timestamptz,
      withdrawn_at timestamptz,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX links_piece ON links (piece_id);
    CREATE TABLE holders (
      id text PRIMARY KEY,
      token_hash text NOT NULL UNIQUE,
      link_id text NOT NULL REFERENCES links ON DELETE CASCADE,
      name text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX holders_link ON holders (link_id);
    CREATE TABLE trails (
      id text NOT NULL,
      holder_id text NOT NULL REFERENCES holders ON DELETE CASCADE,
      task text,
      revision integer NOT NULL,
      trail jsonb NOT NULL,
      given_up boolean NOT NULL,
      is_full boolean NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (holder_id, id)
    );
  `,
    { transaction }
  );
