import { redirect } from '@sveltejs/kit';
import { closeSession } from '$lib/server/services/people';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = async ({ cookies }) => {
  await closeSession(cookies.get('session'));
  cookies.delete('session', { path: '/' });
  redirect(303, '/sign-in');
};
