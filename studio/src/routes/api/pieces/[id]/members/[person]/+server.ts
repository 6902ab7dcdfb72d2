import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { roleSchema } from '$lib/server/schemas';
import { changeRole, takeOut } from '$lib/server/services/members';
import type { Role } from '$lib/shared/types';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ role: Role }>({ role: roleSchema });

export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answer(async () => changeRole(locals.who, params.id, params.person, (await readBody(request, _body, 1000)).role));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => takeOut(locals.who, params.id, params.person));
