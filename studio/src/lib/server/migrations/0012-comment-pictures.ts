import type { QueryInterface, Transaction } from 'sequelize';

/** Pictures that stand in comments. Those of the holder of a link go with his name. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE comment_pictures (
      id text PRIMARY KEY,
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      person_id text REFERENCES people ON DELETE SET NULL,
      holder_id text REFERENCES holders ON DELETE CASCADE,
      bytes bytea NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX comment_pictures_piece ON comment_pictures (piece_id);
  `,
    { transaction }
  );
