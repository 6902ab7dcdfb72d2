import type { AssetRow } from './models';

/**
 * A picture, film or sound as an answer. The address holds the digest of the content, so it never changes; an SVG opened by itself may do
 * nothing. One range of bytes can be asked for, as browsers do to go to a place in a video (RFC 9110, 14).
 */
export function assetAnswer({ bytes, mediaType }: Pick<AssetRow, 'bytes' | 'mediaType'>, request: Request): Response {
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
}
