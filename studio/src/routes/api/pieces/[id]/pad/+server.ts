import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { pressPad } from '$lib/server/services/pad';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ button: number }>({ button: Joi.number().integer().min(0).max(99).required() });

/** A press on the pad, as a box of buttons would send it. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => pressPad(locals.who, params.id, (await readBody(request, _body, 1000)).button));
