import type { QueryInterface, Transaction } from 'sequelize';

/** Which branches of threads somebody has walked, each with what the thread said then. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE walked (
      piece_id text NOT NULL REFERENCES pieces ON DELETE CASCADE,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      thread text NOT NULL,
      branch integer NOT NULL,
      line text NOT NULL,
      walked_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (piece_id, person_id, thread, branch)
    );
  `,
    { transaction }
  );
