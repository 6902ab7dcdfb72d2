import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { linkSchemas } from '$lib/server/schemas';
import { linksOf, makeLink } from '$lib/server/services/links';
import type { LinkWish } from '$lib/shared/types';
import type { RequestHandler } from './$types';

const { name, may, start, bundle, revision, hints, tasks, expires, password } = linkSchemas;
export const _body = Joi.object<LinkWish & { password: string | null }>({
  name: name.required(),
  may: may.required(),
  start: start.required(),
  bundle: bundle.required(),
  revision: revision.required(),
  hints: hints.required(),
  tasks: tasks.required(),
  expires: expires.required(),
  password: password.required(),
});

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ links: await linksOf(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    const { password, ...wish } = await readBody(request, _body, 60_000);
    return { link: await makeLink(locals.who, params.id, wish, password) };
  });
