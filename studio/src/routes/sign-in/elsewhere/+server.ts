import { redirect } from '@sveltejs/kit';
import { cookieFor } from '$lib/server/entering';
import { Refusal } from '$lib/server/errors';
import { beginSignOn } from '$lib/server/services/sign-on';
import { ownPath } from '$lib/shared/own-path';
import type { RequestHandler } from './$types';

/** Off to where people have an account already. */
export const GET: RequestHandler = async ({ url, cookies }) => {
  const back = ownPath(url.searchParams.get('back'));
  let address: string;
  try {
    const begun = await beginSignOn(`${url.origin}/sign-in/elsewhere/back`);
    ({ address } = begun);
    cookies.set('sign-on', JSON.stringify({ ...begun.kept, back }), { ...cookieFor(url), path: '/sign-in', maxAge: 900 });
  } catch (problem) {
    if (!(problem instanceof Refusal)) throw problem;
    redirect(303, `/sign-in?problem=${encodeURIComponent(problem.message)}`);
  }
  redirect(303, address);
};
