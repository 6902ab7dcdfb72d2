import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { makePadKey, padKeysOf } from '$lib/server/services/pad-keys';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ name: string }>({ name: Joi.string().trim().min(1).max(80).required() });

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ keys: await padKeysOf(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => makePadKey(locals.who, params.id, (await readBody(request, _body, 1000)).name));
