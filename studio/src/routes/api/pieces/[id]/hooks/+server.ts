import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { hooksOf, makeHook } from '$lib/server/services/hooks';
import { hookEvents, type HookEvent } from '$lib/shared/types';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ address: string; events: HookEvent[] }>({
  address: Joi.string()
    .uri({ scheme: ['https', 'http'] })
    .max(2000)
    .required()
    .messages({ '*': 'Please give an address that begins with https://.' }),
  events: Joi.array()
    .items(Joi.string().valid(...Object.keys(hookEvents)))
    .unique()
    .min(1)
    .required()
    .messages({ 'array.min': 'Please choose what it is to be told of.' }),
});

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ hooks: await hooksOf(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => makeHook(locals.who, params.id, await readBody(request, _body, 10_000)));
