import Joi from 'joi';
import type { Batch } from '@zany/core';
import { limits } from '$lib/server/config';
import { answer, readBody } from '$lib/server/errors';
import { saveBatches } from '$lib/server/services/saving';
import type { RequestHandler } from './$types';

/** The outer shape; what is in a batch is validated by the core. */
const schema = Joi.object<{ batches: Batch[] }>({
  batches: Joi.array()
    .items(
      Joi.object({
        id: Joi.string().max(40).required(),
        name: Joi.string().max(120).required(),
        operations: Joi.array().items(Joi.object().unknown()).required(),
      })
    )
    .min(1)
    .max(200)
    .required(),
});

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => ({ results: await saveBatches(locals.person, params.id, (await readBody(request, schema, limits.save)).batches) }));
