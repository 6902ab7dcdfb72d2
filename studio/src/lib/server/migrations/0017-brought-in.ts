import type { QueryInterface, Transaction } from 'sequelize';

/** Errands that are about no piece yet: one comes of them. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    ALTER TABLE errands ALTER COLUMN piece_id DROP NOT NULL;
    -- What was sent with it, as long as it is under way; and the piece that came of it.
    ALTER TABLE errands ADD COLUMN sent bytea;
    ALTER TABLE errands ADD COLUMN made text REFERENCES pieces ON DELETE SET NULL;
  `,
    { transaction }
  );
