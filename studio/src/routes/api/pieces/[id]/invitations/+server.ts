import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { emailSchema, roleSchema } from '$lib/server/schemas';
import { invitationsTo, invite } from '$lib/server/services/invitations';
import type { Role } from '$lib/shared/types';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ role: Role; email: string }>({ role: roleSchema, email: emailSchema.allow('') });

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ invitations: await invitationsTo(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals, url }) =>
  answer(async () => {
    const { role, email } = await readBody(request, _body, 2000);
    return invite(locals.who, params.id, role, email, url.origin);
  });
