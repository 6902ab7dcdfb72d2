import type { QueryInterface, Transaction } from 'sequelize';

/** Invitations, forgotten passwords, keys of pads, and the book of who was let in and out. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE invitations (
      id text PRIMARY KEY,
      token_hash text NOT NULL UNIQUE,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      role text NOT NULL CHECK (role IN ('owner', 'editor', 'reviewer')),
      email text NOT NULL,
      by_name text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      expires timestamptz NOT NULL
    );
    CREATE INDEX invitations_piece ON invitations (piece_id);
    CREATE TABLE resets (
      token_hash text PRIMARY KEY,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      expires timestamptz NOT NULL
    );
    CREATE TABLE pad_keys (
      id text PRIMARY KEY,
      key_hash text NOT NULL UNIQUE,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      name text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX pad_keys_piece ON pad_keys (piece_id);
    CREATE TABLE door_book (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      at timestamptz NOT NULL DEFAULT now(),
      by_name text NOT NULL,
      sentence text NOT NULL
    );
    CREATE INDEX door_book_piece ON door_book (piece_id, id);
  `,
    { transaction }
  );
