import { openApi } from '$lib/server/api-docs';
import { answer } from '$lib/server/errors';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(openApi);
