import { answer } from '$lib/server/errors';
import { forgetMe } from '$lib/server/services/trails';
import type { RequestHandler } from './$types';

/** Whoever has come in takes back the name, and all that was kept of what was done. */
export const DELETE: RequestHandler = ({ locals, cookies, params }) =>
  answer(async () => {
    await forgetMe(locals.who);
    cookies.delete('holder', { path: `/r/${params.token}` });
  });
