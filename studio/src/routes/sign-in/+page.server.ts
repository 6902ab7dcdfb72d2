import { fail, redirect, type Cookies } from '@sveltejs/kit';
import Joi from 'joi';
import { config } from '$lib/server/config';
import { Refusal } from '$lib/server/errors';
import { demoPerson, openSession, register, SESSION_SECONDS, signIn } from '$lib/server/services/people';
import type { Person } from '$lib/shared/types';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) => {
  if (locals.person) redirect(303, '/');
  return { demo: config.demo };
};

const email = Joi.string().trim().max(200).email({ tlds: false }).required().messages({ '*': 'Please give an e-mail address.' });
const password = Joi.string().max(200).required().messages({ '*': 'Please give a password.' });
const newPassword = Joi.string().min(10).max(200).required().messages({ '*': 'Please choose a password of 10 to 200 characters.' });
const name = Joi.string().trim().min(1).max(80).required().messages({ '*': 'Please give your name.' });

const signInForm = Joi.object<{ email: string; password: string }>({ email, password });
const registerForm = Joi.object<{ name: string; email: string; password: string }>({ name, email, password: newPassword });

async function enter(cookies: Cookies, url: URL, person: Person): Promise<never> {
  cookies.set('session', await openSession(person), {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: url.protocol === 'https:',
    maxAge: SESSION_SECONDS,
  });
  redirect(303, '/');
}

/** Reads a form by a schema, signs in, and gives the form back with a sentence when that does not work. */
async function attempt<T>(request: Request, schema: Joi.ObjectSchema<T>, work: (form: T) => Promise<Person>) {
  const raw = Object.fromEntries([...(await request.formData())].map(([key, value]) => [key, String(value)]));
  const { value, error } = schema.validate(raw, { stripUnknown: true });
  const back = { email: raw['email'] ?? '', name: raw['name'] ?? '' };
  if (error) return { refused: fail(400, { ...back, problem: error.message }) };
  try {
    return { person: await work(value as T) };
  } catch (problem) {
    if (problem instanceof Refusal) return { refused: fail(problem.status, { ...back, problem: problem.message }) };
    throw problem;
  }
}

export const actions: Actions = {
  enter: async ({ request, cookies, url, getClientAddress }) => {
    const tried = await attempt(request, signInForm, (form) => signIn(form.email, form.password, getClientAddress()));
    return tried.person ? enter(cookies, url, tried.person) : tried.refused;
  },
  register: async ({ request, cookies, url }) => {
    const tried = await attempt(request, registerForm, (form) => register(form.name, form.email, form.password));
    return tried.person ? enter(cookies, url, tried.person) : tried.refused;
  },
  demo: async ({ cookies, url }) => {
    if (!config.demo) return fail(404, { email: '', name: '', problem: 'There is no demo here.' });
    return enter(cookies, url, await demoPerson());
  },
};
