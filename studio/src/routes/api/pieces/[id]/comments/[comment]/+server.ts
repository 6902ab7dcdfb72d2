import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { bodySchema } from '$lib/server/schemas';
import { sweepPictures } from '$lib/server/services/comment-pictures';
import { changeComment, deleteComment } from '$lib/server/services/comments';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ body?: string; resolved?: boolean }>({ body: bodySchema, resolved: Joi.boolean() }).min(1);

export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answer(async () => changeComment(locals.who, params.id, params.comment, await readBody(request, _body, 40_000)));

export const DELETE: RequestHandler = ({ params, locals }) =>
  answer(async () => {
    await deleteComment(locals.who, params.id, params.comment);
    await sweepPictures(params.id);
  });
