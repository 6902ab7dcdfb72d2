import Joi from 'joi';
import { linkMay, roles } from '$lib/shared/rights';
import { MOST_COMMENT } from '$lib/shared/types';
import { PASSWORD } from './passwords';
import { Refusal } from './refusal';
import type { NewComment } from './services/comments';

/** What forms and requests are made of, with the sentences for what is wrong. */

export const emailSchema = Joi.string().trim().max(200).email({ tlds: false }).required().messages({ '*': 'Please give an e-mail address.' });

export const passwordSchema = Joi.string().max(PASSWORD.most).required().messages({ '*': 'Please give a password.' });

export const newPasswordSchema = passwordSchema.messages({ 'string.max': `Please choose a password of at most ${PASSWORD.most} signs.` });

export const nameSchema = Joi.string().trim().min(1).max(80).required().messages({ '*': 'Please give your name.' });

export const idSchema = Joi.string().pattern(/^[0-9A-Za-z_-]{1,64}$/);

export const roleSchema = Joi.string()
  .valid(...roles)
  .required();

const goalSchema = Joi.alternatives(
  Joi.object({ frame: idSchema.required(), state: idSchema }),
  Joi.object({ condition: Joi.string().min(1).max(2000).required() })
);

/** What is set for a review link. */
export const linkSchemas = {
  name: Joi.string().trim().min(1).max(120).messages({ '*': 'Please say whom the link is for.' }),
  may: Joi.string().valid(...linkMay),
  start: idSchema.allow(null),
  bundle: idSchema.allow(null),
  revision: Joi.number().integer().min(0).max(1e9).allow(null),
  hints: Joi.boolean(),
  tasks: Joi.array()
    .items(
      Joi.object({
        id: idSchema.required(),
        sentence: Joi.string().trim().min(1).max(300).required(),
        start: idSchema.allow(null).required(),
        goal: goalSchema.required(),
      })
    )
    .max(20),
  expires: Joi.string().isoDate().allow(null),
  password: Joi.string().min(4).max(200).allow(null).messages({ 'string.min': 'A password of a link has 4 signs or more.' }),
} as const;

const placeSchema = Joi.object({
  scene: idSchema.required(),
  sceneName: Joi.string().max(200).allow('').required(),
  layer: Joi.string()
    .pattern(/^[0-9A-Za-z_/-]{1,600}$/)
    .allow(null)
    .required(),
  layerName: Joi.string().max(200).allow(null, '').required(),
  thread: idSchema.allow(null).default(null),
  threadLine: Joi.string().max(1000).allow(null, '').default(null),
  state: idSchema.allow(null).required(),
  moment: Joi.number().integer().min(0).max(1e7).allow(null).required(),
  at: Joi.array().ordered(Joi.number().min(-1e6).max(1e6).required(), Joi.number().min(-1e6).max(1e6).required()).allow(null).required(),
  size: Joi.array().ordered(Joi.number().min(1).max(1e6).required(), Joi.number().min(1).max(1e6).required()).allow(null).default(null),
});

export const bodySchema = Joi.string()
  .trim()
  .min(1)
  .max(MOST_COMMENT)
  .messages({ 'string.max': `A comment has at most ${MOST_COMMENT} signs.` });

/** A comment, or an answer to one. */
export const commentSchema = Joi.object<NewComment>({
  root: idSchema.allow(null).required(),
  place: placeSchema.allow(null).required(),
  body: bodySchema.required(),
});

/** A revision as an address names it. */
export function revisionIn(text: string): number {
  const revision = /^\d{1,9}$/.test(text) ? Number(text) : NaN;
  if (Number.isNaN(revision)) throw new Refusal('bad-request', 'A version is named by the number of its last edit.', ['revision']);
  return revision;
}
