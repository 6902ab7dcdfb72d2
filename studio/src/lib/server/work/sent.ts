import Joi from 'joi';
import { cutText, EDIT_LIMITS, FORMAT, jsonTextFault, mendedText, MOST_NAME, shapeFault } from '@zany/core';
import { Refusal } from '../refusal';
import type { SentBatch } from './tasks';

/** Batches that are sent at once at most. */
export const MOST_BATCHES = 200;

/** The outer shape of edits that are sent; what is in a batch is validated by the core. */
const schema = Joi.object<{ format?: string; batches: { id: string; name: string; operations: object[] }[] }>({
  format: Joi.string().max(40),
  batches: Joi.array()
    .items(
      Joi.object({
        id: Joi.string().min(1).max(40).required(),
        name: Joi.string().min(1).required(),
        operations: Joi.array().items(Joi.object().unknown()).min(1).required(),
      })
    )
    .min(1)
    .max(MOST_BATCHES)
    .required(),
});

/** Reads a body of edits. Edits of another format are not taken: the page that made them is older or newer than this server. */
export function sentBatches(text: string): SentBatch[] {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new Refusal('bad-request', 'The request is no JSON.');
  }
  const { value, error } = schema.validate(body, { convert: false });
  if (error) throw new Refusal('bad-request', error.details[0]!.message, error.details[0]!.path);
  const { format = FORMAT, batches } = value!;
  if (format !== FORMAT) throw new Refusal('other-format', `These edits are in ${format}; this server takes ${FORMAT}. Load the page again.`);
  const unfit = shapeFault(batches, { ...EDIT_LIMITS, depth: EDIT_LIMITS.depth + 6 }, ['batches'], 'pass');
  if (unfit) throw new Refusal('too-large', unfit.sentence, unfit.path);
  return batches.map(({ id, name, operations }) => ({ id, name: cutText(mendedText(name), MOST_NAME), operations: JSON.stringify(operations) }));
}

/** Reads the bytes of a body of edits, within limits that hold before anything is built of it. */
export function parseBatches(body: Uint8Array): SentBatch[] {
  const bad = jsonTextFault(body, { depth: EDIT_LIMITS.depth + 6, values: EDIT_LIMITS.values });
  if (bad) throw new Refusal('too-large', bad.sentence);
  return sentBatches(new TextDecoder().decode(body));
}
