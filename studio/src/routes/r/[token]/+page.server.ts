import { redirect } from '@sveltejs/kit';
import Joi from 'joi';
import { cookieFor } from '$lib/server/entering';
import { Refusal } from '$lib/server/errors';
import { attempt } from '$lib/server/forms';
import { isHolder } from '$lib/server/principal';
import { nameSchema as name } from '$lib/server/schemas';
import { comeIn, faceOf } from '$lib/server/services/link-door';
import type { LinkFace } from '$lib/shared/types';
import type { Actions, PageServerLoad } from './$types';

interface Door {
  readonly face: LinkFace | null;
  /** Who has come in with this browser. */
  readonly name: string | null;
  readonly problem: string;
}

export const load: PageServerLoad = async ({ params, locals, getClientAddress, setHeaders }): Promise<Door> => {
  setHeaders({ 'X-Robots-Tag': 'noindex' });
  try {
    const face = await faceOf(params.token, getClientAddress());
    return { face, name: isHolder(locals.who) ? locals.who.name : null, problem: '' };
  } catch (problem) {
    if (problem instanceof Refusal) return { face: null, name: null, problem: problem.message };
    throw problem;
  }
};

const form = Joi.object<{ name: string; password: string }>({ name, password: Joi.string().max(200).allow('').default('') });
const YEAR = 365 * 24 * 3600;

export const actions: Actions = {
  default: async ({ params, request, cookies, url, getClientAddress }) => {
    const tried = await attempt(request, form, (filled) => comeIn(params.token, filled.name, filled.password, getClientAddress()));
    if ('refused' in tried) return tried.refused;
    const path = `/r/${params.token}`;
    cookies.set('holder', tried.done, { ...cookieFor(url), path, maxAge: YEAR });
    redirect(303, path);
  },
};
