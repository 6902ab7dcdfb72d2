import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { idSchema } from '$lib/server/schemas';
import { keepTrail } from '$lib/server/services/trails';
import type { SentTrail } from '$lib/shared/types';
import type { RequestHandler } from './$types';

const schema = Joi.object<SentTrail>({
  id: idSchema.required(),
  task: idSchema.allow(null).required(),
  revision: Joi.number().integer().min(0).max(1e9).required(),
  view: Joi.number().integer().min(0).max(1e6).default(0),
  trail: Joi.object().unknown(true).required(),
  givenUp: Joi.boolean().required(),
  isFull: Joi.boolean().required(),
});

export const POST: RequestHandler = ({ request, locals }) => answer(async () => keepTrail(locals.who, await readBody(request, schema, 2_000_000)));
