import type { QueryInterface, Transaction } from 'sequelize';

/** What whoever walked a branch said of it: that it did what it should or not, and in words. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    ALTER TABLE walked ADD COLUMN verdict text CHECK (verdict IN ('pass', 'fail'));
    ALTER TABLE walked ADD COLUMN note text NOT NULL DEFAULT '';
  `,
    { transaction }
  );
