import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { idSchema } from '$lib/server/schemas';
import { handOverOwnership } from '$lib/server/services/members';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ person: string }>({ person: idSchema.required() });

/** Makes another member the owner in the place of the one who asks. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => handOverOwnership(locals.who, params.id, (await readBody(request, _body, 1000)).person));
