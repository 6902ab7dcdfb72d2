import { answer } from '$lib/server/errors';
import { readAsset } from '$lib/server/services/assets';
import type { RequestHandler } from './$types';

/**
 * The address holds the digest of the content, so it never changes; an SVG opened by itself may do nothing. One range of
 * bytes can be asked for, as browsers do to go to a place in a video (RFC 9110, 14).
 */
export const GET: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    const { bytes, mediaType } = await readAsset(locals.person, params.id, params.sha);
    const headers = {
      'Content-Type': mediaType,
      'Cache-Control': 'private, max-age=31536000, immutable',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
      'Accept-Ranges': 'bytes',
    };
    const range = /^bytes=(\d+)-(\d*)$/.exec(request.headers.get('range') ?? '');
    if (!range) return new Response(new Uint8Array(bytes), { headers });
    const from = Number(range[1]);
    const to = Math.min(range[2] ? Number(range[2]) : Infinity, bytes.length - 1);
    if (from > to) return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${bytes.length}` } });
    return new Response(new Uint8Array(bytes.subarray(from, to + 1)), {
      status: 206,
      headers: { ...headers, 'Content-Range': `bytes ${from}-${to}/${bytes.length}` },
    });
  });
