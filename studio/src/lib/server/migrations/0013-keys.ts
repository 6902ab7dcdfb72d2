import type { QueryInterface, Transaction } from 'sequelize';

/** Keys with which programs act for a person. */
export const up = (queries: QueryInterface, transaction: Transaction) =>
  queries.sequelize.query(
    `
    CREATE TABLE person_keys (
      id text PRIMARY KEY,
      key_hash text NOT NULL UNIQUE,
      person_id text NOT NULL REFERENCES people ON DELETE CASCADE,
      name text NOT NULL,
      may text NOT NULL CHECK (may IN ('read', 'change')),
      expires timestamptz NOT NULL,
      used_at timestamptz,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX person_keys_person ON person_keys (person_id);
  `,
    { transaction }
  );
