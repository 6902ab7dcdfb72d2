import { fail, redirect, type Cookies } from '@sveltejs/kit';
import Joi from 'joi';
import { mendedText } from '@zany/core';
import { config } from '$lib/server/config';
import { Refusal } from '$lib/server/errors';
import { PASSWORD } from '$lib/server/passwords';
import { demoPerson, openSession, register, rememberDevice, SESSION_SECONDS, signIn } from '$lib/server/services/people';
import { ownPath } from '$lib/shared/own-path';
import type { Person } from '$lib/shared/types';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, url }) => {
  if (locals.person) redirect(303, ownPath(url.searchParams.get('back')));
  return { demo: config.demo, leastPassword: PASSWORD.least, back: ownPath(url.searchParams.get('back')) };
};

const email = Joi.string().trim().max(200).email({ tlds: false }).required().messages({ '*': 'Please give an e-mail address.' });
const password = Joi.string().max(PASSWORD.most).required().messages({ '*': 'Please give a password.' });
const name = Joi.string().trim().min(1).max(80).required().messages({ '*': 'Please give your name.' });
const newPassword = password.messages({ 'string.max': `Please choose a password of at most ${PASSWORD.most} signs.` });

const signInForm = Joi.object<{ email: string; password: string }>({ email, password });
const registerForm = Joi.object<{ name: string; email: string; password: string }>({ name, email, password: newPassword });

const DEVICE_SECONDS = 365 * 24 * 3600;

interface Entering {
  readonly cookies: Cookies;
  readonly url: URL;
}

async function enter({ cookies, url }: Entering, person: Person): Promise<never> {
  const cookie = { path: '/', httpOnly: true, sameSite: 'lax', secure: url.protocol === 'https:' } as const;
  cookies.set('session', await openSession(person, cookies.get('session')), { ...cookie, maxAge: SESSION_SECONDS });
  cookies.set('device', await rememberDevice(person.id, cookies.get('device')), { ...cookie, path: '/sign-in', maxAge: DEVICE_SECONDS });
  redirect(303, ownPath(url.searchParams.get('back')));
}

/** Reads a form by a schema, does something with it, and gives the form back with a sentence when that does not work. */
async function attempt<T, R>(request: Request, schema: Joi.ObjectSchema<T>, work: (form: T) => Promise<R>) {
  const raw = Object.fromEntries([...(await request.formData())].map(([key, value]) => [key, mendedText(String(value)).slice(0, 1000)]));
  const { value, error } = schema.validate(raw, { stripUnknown: true });
  const back = { email: raw['email'] ?? '', name: raw['name'] ?? '', made: false };
  if (error) return { refused: fail(400, { ...back, problem: error.message }) };
  try {
    return { done: await work(value as T) };
  } catch (problem) {
    if (problem instanceof Refusal) return { refused: fail(problem.status, { ...back, problem: problem.message }) };
    throw problem;
  }
}

export const actions: Actions = {
  enter: async ({ request, cookies, url, getClientAddress }) => {
    const visitor = { address: getClientAddress(), device: cookies.get('device') };
    const tried = await attempt(request, signInForm, (form) => signIn(form.email, form.password, visitor));
    return tried.done ? enter({ cookies, url }, tried.done) : tried.refused;
  },
  register: async ({ request, getClientAddress }) => {
    const tried = await attempt(request, registerForm, async (form) => {
      await register(form.name, form.email, form.password, getClientAddress());
      return form;
    });
    return tried.done ? { email: tried.done.email, name: tried.done.name, problem: '', made: true } : tried.refused;
  },
  demo: async ({ cookies, url }) => {
    if (!config.demo) return fail(404, { email: '', name: '', made: false, problem: 'There is no demo here.' });
    return enter({ cookies, url }, await demoPerson());
  },
};
