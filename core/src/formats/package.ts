import { strToU8, unzipSync, zipSync, type Unzipped } from 'fflate';
import type { Piece } from '../piece/piece.ts';
import { pieceToJson, readPieceText } from '../piece/read.ts';
import { fail, fault, ok, type Result } from '../result.ts';

/** A package is a zip of `piece.json` and `assets/<sha256>`. */

/** The bytes of picture files by their SHA-256 in hexadecimal. */
export type AssetBytes = ReadonlyMap<string, Uint8Array>;

export interface Package {
  readonly piece: Piece;
  readonly assets: AssetBytes;
}

export interface PackageLimits {
  /** Unpacked bytes at most, of all files together. */
  readonly bytes: number;
  /** Unpacked bytes of piece.json at most. */
  readonly document: number;
}

export const PACKAGE_LIMITS: PackageLimits = { bytes: 600_000_000, document: 100_000_000 };

/** The same piece and pictures always give the same bytes. */
export function writePackage(piece: Piece, assets: AssetBytes): Uint8Array {
  const files: Record<string, [Uint8Array, { level: 0 | 6; mtime: Date }]> = {
    'piece.json': [strToU8(`${JSON.stringify(pieceToJson(piece), null, 1)}\n`), { level: 6, mtime: EPOCH }],
  };
  for (const id of [...piece.assets.keys()].sort()) {
    const bytes = assets.get(id);
    if (bytes) files[`assets/${id}`] = [bytes, { level: 0, mtime: EPOCH }];
  }
  return zipSync(files);
}

/** Zip has no earlier date than this; a fixed one keeps packages comparable. */
export const EPOCH = new Date('1980-01-02T00:00:00Z');

/** Reads a package or a bare piece.json. `sha256` gives the hexadecimal digest of bytes; with null digests are not checked. */
export async function readPackage(
  bytes: Uint8Array,
  sha256: ((bytes: Uint8Array) => Promise<string> | string) | null,
  limits = PACKAGE_LIMITS
): Promise<Result<Package>> {
  if (!isZip(bytes)) return readBare(bytes, limits);
  const files = unzip(bytes, limits);
  if (!files.ok) return files;
  const text = files.value['piece.json'];
  if (!text) return fail(fault('not-a-package', ['piece.json'], 'This zip holds no piece.json, so it is no package.'));
  const piece = readPieceText(text);
  if (!piece.ok) return piece;
  const assets = new Map<string, Uint8Array>();
  for (const id of piece.value.assets.keys()) {
    const data = files.value[`assets/${id}`];
    if (!data) return fail(fault('missing-asset', ['assets', id], `The picture “${piece.value.assets.get(id)!.name}” is not in the package.`));
    if (sha256 && (await sha256(data)) !== id)
      return fail(
        fault('wrong-asset', ['assets', id], `The picture “${piece.value.assets.get(id)!.name}” has been changed since the package was written.`)
      );
    assets.set(id, data);
  }
  return ok({ piece: piece.value, assets });
}

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5);

function readBare(bytes: Uint8Array, limits: PackageLimits): Result<Package> {
  if (bytes.length > limits.document) return fail(fault('too-large', [], `This has more than ${megabytes(limits.document)}.`));
  const piece = readPieceText(bytes);
  return piece.ok ? ok({ piece: piece.value, assets: new Map() }) : piece;
}

const megabytes = (bytes: number) => `${Math.round(bytes / 1e6)} MB`;

/** Sizes are summed before anything is unpacked, and only the names that a package has are taken. */
function unzip(bytes: Uint8Array, limits: PackageLimits): Result<Unzipped> {
  let total = 0;
  try {
    const files = unzipSync(bytes, {
      filter: (file) => {
        if (!/^(piece\.json|assets\/[0-9a-f]{64})$/.test(file.name)) return false;
        total += file.originalSize;
        if (total > limits.bytes) throw new Error(`it unpacks to more than ${megabytes(limits.bytes)}`);
        if (file.name === 'piece.json' && file.originalSize > limits.document)
          throw new Error(`its piece.json has more than ${megabytes(limits.document)}`);
        return true;
      },
    });
    return ok(files);
  } catch (error) {
    return fail(fault('broken-zip', [], `The package cannot be unpacked: ${(error as Error).message}.`));
  }
}
