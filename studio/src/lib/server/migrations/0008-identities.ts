import type { QueryInterface, Transaction } from 'sequelize';

/** Who somebody is at an issuer that people sign in by. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE identities (
      issuer text NOT NULL,
      subject text NOT NULL,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      PRIMARY KEY (issuer, subject)
    );
  `,
    { transaction }
  );
