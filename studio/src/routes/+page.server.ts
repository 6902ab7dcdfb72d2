import { redirect } from '@sveltejs/kit';
import { listPieces } from '$lib/server/services/pieces';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, depends }) => {
  depends('zany:pieces');
  if (!locals.person) redirect(303, '/sign-in');
  return { person: locals.person, pieces: await listPieces(locals.person) };
};
