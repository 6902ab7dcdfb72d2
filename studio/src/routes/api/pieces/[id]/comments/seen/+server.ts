import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { idSchema } from '$lib/server/schemas';
import { noteSeen } from '$lib/server/services/comments';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ roots: string[] }>({ roots: Joi.array().items(idSchema).max(5000).required() });

/** What whoever asks has seen, with all answers there are now. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => noteSeen(locals.who, params.id, (await readBody(request, _body, 200_000)).roots));
