import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { linkSchemas } from '$lib/server/schemas';
import { changeLink, withdrawLink, type LinkChange } from '$lib/server/services/links';
import type { RequestHandler } from './$types';

export const _body = Joi.object<LinkChange>(linkSchemas).min(1);

export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answer(async () => ({ link: await changeLink(locals.who, params.id, params.link, await readBody(request, _body, 60_000)) }));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => withdrawLink(locals.who, params.id, params.link));
