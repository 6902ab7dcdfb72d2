import { redirect } from '@sveltejs/kit';
import Joi from 'joi';
import { enter } from '$lib/server/entering';
import { Refusal } from '$lib/server/errors';
import { endSignOn, type SignOnKept } from '$lib/server/services/sign-on';
import type { Person } from '$lib/shared/types';
import type { RequestHandler } from './$types';

const schema = Joi.object<SignOnKept & { back: string }>({
  verifier: Joi.string().required(),
  state: Joi.string().required(),
  nonce: Joi.string().required(),
  back: Joi.string().required(),
});

function keptIn(text: string | undefined): (SignOnKept & { back: string }) | null {
  try {
    const { value, error } = schema.validate(JSON.parse(text ?? ''));
    return error ? null : (value as SignOnKept & { back: string });
  } catch {
    return null;
  }
}

/** Back from where people have an account already. */
export const GET: RequestHandler = async ({ url, cookies }) => {
  const kept = keptIn(cookies.get('sign-on'));
  cookies.delete('sign-on', { path: '/sign-in' });
  let person: Person;
  try {
    person = await endSignOn(url, kept);
  } catch (problem) {
    if (!(problem instanceof Refusal)) throw problem;
    redirect(303, `/sign-in?problem=${encodeURIComponent(problem.message)}`);
  }
  return enter(cookies, url, person, kept?.back ?? null);
};
