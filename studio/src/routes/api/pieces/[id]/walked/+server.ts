import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { idSchema } from '$lib/server/schemas';
import { forgetWalked, noteWalked, walkedBy, walkedByOthers } from '$lib/server/services/walked';
import { MOST_WALK_NOTE, type WalkedBranch } from '$lib/shared/types';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ walked: WalkedBranch[] }>({
  walked: Joi.array()
    .items(
      Joi.object({
        thread: idSchema.required(),
        branch: Joi.number().integer().min(0).max(50).required(),
        line: Joi.string().max(4000).allow('').required(),
        verdict: Joi.string().valid('pass', 'fail', null).required(),
        note: Joi.string().max(MOST_WALK_NOTE).allow('').required(),
      })
    )
    .min(1)
    .max(500)
    .required(),
});

/** What the one who asks has walked of a piece, and what others have. */
export const GET: RequestHandler = ({ params, locals }) =>
  answer(async () => ({ walked: await walkedBy(locals.who, params.id), others: await walkedByOthers(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => noteWalked(locals.who, params.id, (await readBody(request, _body, 3_000_000)).walked));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => forgetWalked(locals.who, params.id));
