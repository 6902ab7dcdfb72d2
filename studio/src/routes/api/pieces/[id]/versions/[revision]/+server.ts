import Joi from 'joi';
import { answer, jsonText, readBody } from '$lib/server/errors';
import { revisionIn } from '$lib/server/schemas';
import { nameVersion, unnameVersion, versionAt } from '$lib/server/services/versions';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ name: string }>({
  name: Joi.string().trim().min(1).max(120).required().messages({ '*': 'Please give the version a name.' }),
});

export const GET: RequestHandler = ({ params, locals }) =>
  answer(async () => jsonText(await versionAt(locals.who, params.id, revisionIn(params.revision))));

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answer(async () => nameVersion(locals.who, params.id, revisionIn(params.revision), (await readBody(request, _body, 10_000)).name));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => unnameVersion(locals.who, params.id, revisionIn(params.revision)));
