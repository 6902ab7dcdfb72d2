interface File {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly mediaType: string;
}

/** A file to be saved, never shown: what is in it is somebody's. */
export function fileAnswer({ bytes, name, mediaType }: File): Response {
  const plain = name.replace(/[^\x20-\x7e]|"/g, '_');
  return new Response(new Uint8Array(bytes), {
    headers: {
      'Content-Type': mediaType,
      'Content-Disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'Content-Security-Policy': 'sandbox',
    },
  });
}
