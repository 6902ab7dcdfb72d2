import { strFromU8 } from 'fflate';
import { isRecord } from '../../../record.ts';
import { fail, fault, ok, type Result } from '../../../result.ts';
import { Archive } from '../archive.ts';
import { listIn } from './values.ts';

/** Animations in a zip (`.lottie`): a manifest, animations as JSON, and pictures as files of their own. */
export interface Packed {
  /** The first animation that the manifest names, as JSON text. */
  readonly animation: Uint8Array;
  /** Names of what else is in it. */
  readonly others: readonly string[];
  /** A picture by where an animation says it is; null where it is not in the file. */
  readonly picture: (folder: string, file: string) => Uint8Array | null;
}

/** What a zip begins with. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Where animations and pictures are, in the second version of the form and in the first. */
const FOLDERS = { animations: ['a/', 'animations/'], pictures: ['i/', 'images/'] } as const;

export function unpacked(bytes: Uint8Array): Result<Packed> {
  const opened = Archive.open(bytes, {});
  if (!opened.ok) return opened;
  const archive = opened.value;
  const all = archive.names.flatMap((path) => {
    const folder = FOLDERS.animations.find((one) => path.startsWith(one));
    return folder && path.endsWith('.json') ? [{ path, name: path.slice(folder.length, -'.json'.length) }] : [];
  });
  const named = namedIn(archive.file('manifest.json'));
  const place = (name: string) => (named.includes(name) ? named.indexOf(name) : named.length);
  const [first, ...others] = all.toSorted((a, b) => place(a.name) - place(b.name));
  if (!first) return fail(fault('no-animation', [], 'This holds no animation: there is none in its folders “a” and “animations”.'));
  return ok({
    animation: archive.file(first.path)!,
    others: others.map(({ name }) => name),
    picture: (folder, file) => {
      const places = [`${folder}${file}`.replace(/^\/+/, ''), ...FOLDERS.pictures.map((one) => `${one}${file}`)];
      return places.map((path) => archive.file(path)).find((found) => found !== null) ?? null;
    },
  });
}

/** The animations that a manifest names, in its order; none where it cannot be read. */
function namedIn(manifest: Uint8Array | null): readonly string[] {
  try {
    const json: unknown = manifest && JSON.parse(strFromU8(manifest));
    return isRecord(json) ? listIn(json['animations']).flatMap((one) => (isRecord(one) && typeof one['id'] === 'string' ? one['id'] : [])) : [];
  } catch {
    return [];
  }
}
