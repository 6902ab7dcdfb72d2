import type { QueryInterface, Transaction } from 'sequelize';

/** Up to which revision an address was told that a piece was saved. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    ALTER TABLE hooks ADD COLUMN told integer NOT NULL DEFAULT 0;
    UPDATE hooks SET told = revision FROM pieces WHERE pieces.id = piece_id;
  `,
    { transaction }
  );
