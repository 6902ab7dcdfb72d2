import { answer } from '$lib/server/errors';
import { readAsset } from '$lib/server/services/assets';
import type { RequestHandler } from './$types';

/** The address holds the digest of the content, so it never changes; an SVG opened by itself may do nothing. */
export const GET: RequestHandler = ({ params, locals }) =>
  answer(async () => {
    const { bytes, mediaType } = await readAsset(locals.person, params.id, params.sha);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': mediaType,
        'Cache-Control': 'private, max-age=31536000, immutable',
        'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
      },
    });
  });
