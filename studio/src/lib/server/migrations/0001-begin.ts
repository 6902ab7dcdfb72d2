import type { QueryInterface, Transaction } from 'sequelize';

export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE people (
      id text PRIMARY KEY,
      name text NOT NULL,
      email text NOT NULL,
      password_hash text NOT NULL
    );
    CREATE UNIQUE INDEX people_email ON people (lower(email));
    CREATE TABLE sessions (
      token_hash text PRIMARY KEY,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      expires timestamptz NOT NULL
    );
    CREATE TABLE pieces (
      id text PRIMARY KEY,
      name text NOT NULL,
      revision integer NOT NULL,
      deleted_at timestamptz,
      created_at timestamptz NOT NULL,
      updated_at timestamptz NOT NULL
    );
    CREATE TABLE members (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      role text NOT NULL CHECK (role IN ('owner', 'editor', 'reviewer')),
      PRIMARY KEY (piece_id, person_id)
    );
    CREATE INDEX members_person ON members (person_id);
    CREATE TABLE batches (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      revision integer NOT NULL,
      id text NOT NULL,
      person_id text NOT NULL,
      name text NOT NULL,
      operations jsonb NOT NULL,
      created_at timestamptz NOT NULL,
      PRIMARY KEY (piece_id, revision),
      UNIQUE (piece_id, id)
    );
    CREATE TABLE snapshots (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      revision integer NOT NULL,
      body jsonb NOT NULL,
      PRIMARY KEY (piece_id, revision)
    );
    CREATE TABLE assets (
      id text PRIMARY KEY,
      media_type text NOT NULL,
      width double precision NOT NULL,
      height double precision NOT NULL,
      bytes bytea NOT NULL
    );
    CREATE TABLE piece_assets (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      asset_id text NOT NULL REFERENCES assets,
      PRIMARY KEY (piece_id, asset_id)
    );
  `,
    { transaction }
  );
