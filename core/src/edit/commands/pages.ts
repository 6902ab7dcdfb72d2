import type { MakeId } from '../make-id.ts';
import { cutText, nameFrom } from '../../text.ts';
import { framesOf, layersUnder, threadsOf, type Asset, type Layer, type Piece, type Scene } from '../../piece/piece.ts';
import type { Rect } from '../../program/geometry.ts';
import { addressProblem, unescaped } from '../../vocabulary/address.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import { naturally, takeName } from '../../words.ts';
import { keysBetween } from '../order.ts';
import type { Operation } from '../operation.ts';
import { newThread } from './threads.ts';

/** Files of pictures, videos and sounds as frames and as layers. */

/** A file that has been taken in, and how its frame is made. */
export interface BroughtIn {
  readonly asset: Asset;
  /** The file's name; the frame is named after it, without its ending. */
  readonly file: string;
  /** What its frame is called instead. */
  readonly title?: string;
  /** How large its frame is where it has its own size, CSS px; as large as the picture if not given. */
  readonly size?: { readonly width: number; readonly height: number };
  /** Where in the picture one is led elsewhere. */
  readonly links?: readonly PageLink[];
}

export interface PageLink {
  readonly name: string;
  /** In shares of the picture: 0, 0, 1, 1 is all of it. */
  readonly area: Rect;
  /** Another file, as its name or a way to it, or an address of the web. */
  readonly to: { readonly file: string } | { readonly address: string };
}

/** Frames made of files, and what of the files' links did not come in, a sentence each. */
export interface PagesIn {
  readonly operations: Operation[];
  readonly left: string[];
}

/**
 * One frame for each picture, in natural order of the file names, after all others. `fit` makes every frame the piece's
 * size with the picture inside; otherwise each frame gets its picture's size. A first empty frame gives way. Links become hit areas: they
 * lead to files that come in with them, or to frames that are called alike.
 */
export function bringInPages(piece: Piece, pages: readonly BroughtIn[], fit: boolean, makeId: MakeId): PagesIn {
  const sorted = [...pages].sort((a, b) => naturally(a.file, b.file));
  const frames = framesOf(piece);
  const blank = frames.length === 1 && isBlank(piece, frames[0]!) ? frames[0]! : null;
  const kept = frames.filter((frame) => frame !== blank);
  const keys = keysBetween(frames.at(-1)?.order ?? null, null, sorted.length);
  const names = new Set(kept.map((frame) => frame.name));
  const made = sorted.map((page, at) => ({ page, id: makeId(), name: takeName(names, page.title ?? baseName(page.file)), order: keys[at]! }));
  const byFile = new Map([...framesByName(kept), ...made.map(({ page, id }) => [alike(page.file), id] as const)]);
  const operations: Operation[] = [];
  const left: string[] = [];
  for (const { page, id, name, order } of made) {
    const { asset, links = [] } = page;
    if (!piece.assets.has(asset.id)) operations.push({ op: 'put', table: 'assets', value: asset });
    const { width, height } = sizeOf(piece, page, fit);
    const scene: Scene = { id, use: 'frame', name, order, width, height, background: '#ffffff' };
    operations.push({ op: 'put', table: 'scenes', value: scene }, { op: 'put', table: 'layers', value: pictureOf(makeId(), scene, asset) });
    const place = { scene: id, parent: null, after: 'a0', title: name, names: new Set(['Page']), box: pictureBox(scene, asset) };
    const areas = hitAreas(place, links, byFile, makeId);
    operations.push(...areas.operations);
    left.push(...areas.left);
  }
  if (blank && made.length) operations.push({ op: 'remove', table: 'scenes', id: blank.id });
  const start = piece.head.start.filter((id) => id !== blank?.id);
  if (made.length && start.length === 0) operations.push({ op: 'set', table: 'piece', id: piece.head.id, path: ['start'], value: [made[0]!.id] });
  return { operations, left };
}

/** A frame has so many hit areas of links at most. */
const MOST_LINKS = 200;

const MOST_SIDE = 20_000;

function sizeOf(piece: Piece, { asset, size = asset }: BroughtIn, fit: boolean): { width: number; height: number } {
  const { width, height } = fit ? piece.head : size;
  const side = (value: number) => Math.min(MOST_SIDE, Math.max(1, Math.round(value)));
  return { width: side(width), height: side(height) };
}

const pictureOf = (id: string, { id: scene, width, height }: Scene, asset: Asset): Layer => ({
  id,
  scene,
  parent: null,
  order: 'a0',
  name: 'Page',
  type: 'picture',
  pose: { x: 0, y: 0, width, height },
  style: {},
  asset: asset.id,
  fit: 'contain',
  locked: true,
});

/** Where a picture stands that a frame holds whole, CSS px. */
function pictureBox({ width, height }: Scene, asset: Asset): Rect {
  const scale = Math.min(width / asset.width, height / asset.height);
  const box = { width: asset.width * scale, height: asset.height * scale };
  return { x: (width - box.width) / 2, y: (height - box.height) / 2, ...box };
}

/** Where hit areas of links go. */
export interface LinkPlace {
  readonly scene: string;
  readonly parent: string | null;
  /** They stand in front of this. */
  readonly after: string | null;
  /** What it is called in what is left. */
  readonly title: string;
  /** Names that are taken. */
  readonly names: Set<string>;
  /** Where the picture with the links stands, CSS px. */
  readonly box: Rect;
}

/** Frames by what links may call them. */
export const framesByName = (frames: readonly Scene[]): ReadonlyMap<string, string> => new Map(frames.map(({ id, name }) => [alike(name), id]));

/** Links as hit areas, each with a click that leads where the link leads. */
export function hitAreas(place: LinkPlace, links: readonly PageLink[], frames: ReadonlyMap<string, string>, makeId: MakeId): PagesIn {
  const { scene, parent, title, names, box } = place;
  const keys = keysBetween(place.after, null, Math.min(links.length, MOST_LINKS));
  const left = links.length > MOST_LINKS ? [`${title}: ${links.length - MOST_LINKS} of its ${links.length} links`] : [];
  const operations = links.slice(0, MOST_LINKS).flatMap(({ name, area, to }, i): Operation[] => {
    const step = stepTo(to, frames);
    if (typeof step === 'string') {
      left.push(`${title}, ${name}: ${step}`);
      return [];
    }
    const id = makeId();
    const layer: Layer = {
      id,
      scene,
      parent,
      order: keys[i]!,
      name: takeName(names, nameFrom(name, 'Link')),
      type: 'hit',
      pose: {
        x: Math.round(box.x + area.x * box.width),
        y: Math.round(box.y + area.y * box.height),
        width: Math.max(1, Math.round(area.width * box.width)),
        height: Math.max(1, Math.round(area.height * box.height)),
      },
      style: {},
    };
    return [
      { op: 'put', table: 'layers', value: layer },
      newThread(makeId(), 'layer', id, { cue: { type: 'click' }, branches: [{ steps: [step] }] }),
    ];
  });
  return { operations, left };
}

/** The step that opens an address; a sentence where it is none. */
export const openingOf = (address: string): Step | string =>
  addressProblem(address) === null ? { do: 'open', address, tab: 'new' } : `“${cutText(address, 80)}” is no address that can be opened`;

/** What a link does; a sentence where it leads nowhere. */
function stepTo(to: PageLink['to'], frames: ReadonlyMap<string, string>): Step | string {
  if ('address' in to) return openingOf(to.address);
  const frame = frames.get(alike(to.file));
  return frame === undefined
    ? `“${cutText(to.file, 80)}” is not among what came in, and no frame is called so`
    : { do: 'go', target: { to: 'frame', frame }, transition: { type: 'cut' } };
}

/** Names of files and frames that mean the same: `site/Day%20trip.svg`, `day-trip.png` and `Day trip`. */
function alike(name: string): string {
  return baseName(unescaped(name.replace(/[?#].*$/, '')))
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** Files as layers in front of all in a scene, in natural order, each no larger than the scene. */
export function bringInLayers(piece: Piece, scene: string, files: readonly BroughtIn[], makeId: MakeId): { operations: Operation[]; ids: string[] } {
  const around = piece.scenes.get(scene);
  if (!around) return { operations: [], ids: [] };
  const sorted = [...files].sort((a, b) => naturally(a.file, b.file));
  const siblings = layersUnder(piece, scene, null);
  const keys = keysBetween(siblings.at(-1)?.order ?? null, null, sorted.length);
  const names = new Set(siblings.map((layer) => layer.name));
  const known = new Set(piece.assets.keys());
  const ids: string[] = [];
  const operations = sorted.flatMap(({ asset, file }, i): Operation[] => {
    const id = makeId();
    ids.push(id);
    const scale = Math.min(1, around.width / asset.width, around.height / asset.height);
    const [width, height] = [Math.max(1, Math.round(asset.width * scale)), Math.max(1, Math.round(asset.height * scale))];
    const type = asset.mediaType.startsWith('image/') ? 'picture' : asset.mediaType.startsWith('video/') ? 'video' : 'sound';
    const value: Layer = {
      id,
      scene,
      parent: null,
      order: keys[i]!,
      name: takeName(names, baseName(file)),
      type,
      pose: { x: Math.round((around.width - width) / 2), y: Math.round((around.height - height) / 2), width, height },
      style: {},
      asset: asset.id,
      ...(type === 'picture' && { fit: 'fill' as const }),
      ...(type === 'video' && { media: { autoplay: true, muted: true } }),
    };
    const isNew = !known.has(asset.id);
    known.add(asset.id);
    return [...(isNew ? [{ op: 'put' as const, table: 'assets' as const, value: asset }] : []), { op: 'put', table: 'layers', value }];
  });
  return { operations, ids };
}

const isBlank = (piece: Piece, frame: Scene) =>
  !piece.index.layersOf.has(frame.id) && threadsOf(piece, frame.id).length === 0 && /^Frame \d+$/.test(frame.name);

const baseName = (file: string) => nameFrom(file.replace(/^.*[\\/]/, '').replace(/\.[a-z0-9]{1,5}$/i, ''), 'Page');
