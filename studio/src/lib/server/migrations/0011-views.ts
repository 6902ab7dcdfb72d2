import type { QueryInterface, Transaction } from 'sequelize';

/** What a link showed before it was changed, and which of that somebody saw in whatever he did. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    ALTER TABLE links ADD COLUMN views jsonb NOT NULL DEFAULT '[]';
    ALTER TABLE trails ADD COLUMN view integer NOT NULL DEFAULT 0;
  `,
    { transaction }
  );
