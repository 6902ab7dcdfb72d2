import { textParts } from '../../expression/text.ts';
import { displayText, storeText } from '../../expression/written-text.ts';
import { displayExpression } from '../../expression/names.ts';
import { expressionScope } from '../../expression/scope.ts';
import { storeExpression } from '../../expression/store.ts';
import { parseLine, printLine } from '../../lines/line.ts';
import { scopeFor } from '../../lines/scope.ts';
import { paintOf, swatchIn } from '../../piece/paint.ts';
import { paintsIn } from '../../piece/painted.ts';
import { framesOf, scenesOf, sceneOfThread, type Entity, type Piece, type TableName, type Thread } from '../../piece/piece.ts';
import { fieldsOf } from '../../piece/visit.ts';
import { MOST_NAME } from '../../text.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { swatchesOf } from './swatches.ts';

/** Finding something over a whole piece, and putting something else in its place: in names, texts, thread lines, bindings and colours. */

export const searchKinds = {
  names: { label: 'names', meaning: 'of frames, parts, sheets, layers, states, labels, variables and swatches; whatever refers to them follows' },
  texts: { label: 'texts', meaning: 'that layers say, in every look and state, and what placements fill in' },
  notes: {
    label: 'notes',
    meaning: 'of frames and threads, what layers are called to those who do not see them, and names of picture, video and sound files',
  },
  threads: { label: 'threads', meaning: 'as their lines read: cues, conditions, targets, values, transitions' },
  bindings: { label: 'bindings', meaning: 'shown when, enabled when, selected when and all that follows an expression' },
  colours: { label: 'colours', meaning: 'as #rrggbb or by the name of a swatch' },
} as const;

export type SearchKind = keyof typeof searchKinds;

export interface Sought {
  readonly find: string;
  readonly put: string;
  readonly kinds: readonly SearchKind[];
  /** Only where it stands as a word by itself. */
  readonly whole?: boolean;
  /** Only where capitals are the same. */
  readonly capitals?: boolean;
}

/** One place where it stands. */
export interface Hit {
  /** The same for the same place, however much is found. */
  readonly key: string;
  readonly kind: SearchKind;
  /** Null for what belongs to the piece. */
  readonly scene: string | null;
  readonly layer: string | null;
  /** What it stands in, in words: `text of Pay button, hovered`. */
  readonly where: string;
  readonly before: string;
  readonly after: string;
  /** Where it stands in what was there before: from, and up to but without. */
  readonly at: readonly (readonly [from: number, to: number])[];
  readonly operations: readonly Operation[];
  /** Why it cannot be replaced here; null where it can. */
  readonly fault: string | null;
}

/** Most places that are found and replaced in one go; `more` tells that there are others. */
export const MOST_HITS = 2000;

export interface Search {
  /** In the order of the document: frames, parts, sheets, then the piece. */
  readonly hits: readonly Hit[];
  readonly more: boolean;
}

/**
 * All places where something stands, and what would stand there. Names go first: what refers to a thing is written with the name that
 * it has then. `without` are keys of places that are left alone.
 */
export function findAll(piece: Piece, sought: Sought, without: ReadonlySet<string> = new Set()): Search {
  if (sought.find === '') return { hits: [], more: false };
  const wants = (kind: SearchKind) => sought.kinds.includes(kind);
  const names = checked(piece, wants('names') ? namesIn(piece, sought) : []);
  const renamed = apply(piece, operationsOf(names.slice(0, MOST_HITS), without));
  const then = renamed.ok ? renamed.value.piece : piece;
  const others = [
    ...(wants('texts') ? textsIn(then, sought) : []),
    ...(wants('notes') ? notesIn(then, sought) : []),
    ...(wants('bindings') ? bindingsIn(then, sought) : []),
    ...(wants('threads') ? threadsIn(then, sought) : []),
    ...(wants('colours') ? coloursIn(piece, sought) : []),
  ];
  const order = new Map<string | null, number>(
    [...framesOf(piece), ...scenesOf(piece, 'part'), ...scenesOf(piece, 'sheet')].map(({ id }, i) => [id, i])
  );
  const placeOf = (hit: Hit) => order.get(hit.scene) ?? order.size;
  const hits = [...names, ...checked(then, others.slice(0, MOST_HITS))].slice(0, MOST_HITS);
  return { hits: hits.toSorted((a, b) => placeOf(a) - placeOf(b)), more: names.length + others.length > MOST_HITS };
}

/** Places with what the document itself says against what would stand there. */
function checked(piece: Piece, hits: readonly Hit[]): readonly Hit[] {
  if (apply(piece, operationsOf(hits)).ok) return hits;
  return hits.map((hit) => {
    const applied = hit.fault === null ? apply(piece, hit.operations) : null;
    return applied === null || applied.ok ? hit : { ...hit, operations: [], fault: applied.error.sentence };
  });
}

/** What replaces all places but those that are left alone, and those where it cannot. */
export const operationsOf = (hits: readonly Hit[], without: ReadonlySet<string> = new Set()): Operation[] =>
  hits.filter(({ key, fault }) => fault === null && !without.has(key)).flatMap(({ operations }) => operations);

// ── what is looked for ───────────────────────────────────────────────────────

function placesIn(text: string, { find, whole, capitals }: Sought): (readonly [number, number])[] {
  const signs = find.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const found = text.matchAll(new RegExp(whole ? `(?<![\\p{L}\\p{N}_])${signs}(?![\\p{L}\\p{N}_])` : signs, capitals ? 'gu' : 'giu'));
  return Array.from(found, ({ index, 0: it }) => [index, index + it.length] as const);
}

const replacedAt = (text: string, places: readonly (readonly [number, number])[], put: string): string =>
  places.reduceRight((all, [from, to]) => all.slice(0, from) + put + all.slice(to), text);

interface Place {
  readonly kind: SearchKind;
  readonly table: TableName | 'piece';
  readonly id: string;
  readonly path: readonly string[];
  readonly scene: string | null;
  readonly layer: string | null;
  readonly where: string;
}

/** A place, if it stands there; `write` gives the operations for what is to be written, or why it cannot be. */
function hitIn(
  place: Place,
  before: string,
  sought: Sought,
  write: (after: string) => readonly Operation[] | string,
  isMeant: (from: number, to: number) => boolean = () => true
): Hit[] {
  const at = placesIn(before, sought).filter(([from, to]) => isMeant(from, to));
  if (at.length === 0) return [];
  const after = replacedAt(before, at, sought.put);
  return [hitAt(place, { before, after, at }, after === before ? NO_OTHER : write(after))];
}

const NO_OTHER = 'Nothing would be another than it is.';

/** A place where it stands; `written` are the operations that replace it, or why it cannot be replaced. */
function hitAt(
  { kind, table, id, path, scene, layer, where }: Place,
  found: Pick<Hit, 'before' | 'after' | 'at'>,
  written: readonly Operation[] | string
): Hit {
  const [operations, fault] = typeof written === 'string' ? [[], written] : [written, null];
  return { key: [table, id, ...path].join('/'), kind, scene, layer, where, ...found, operations, fault };
}

const setIn = ({ table, id, path }: Place, value: unknown): Operation => ({ op: 'set', table, id, path: [...path], value }) as Operation;

// ── names ────────────────────────────────────────────────────────────────────

function namesIn(piece: Piece, sought: Sought): Hit[] {
  const hits: Hit[] = [];
  const name = (place: Omit<Place, 'kind'>, before: string) => {
    const whole: Place = { kind: 'names', ...place };
    hits.push(...hitIn(whole, before, sought, (after) => nameFault(after) ?? [setIn(whole, after.trim())]));
  };
  for (const scene of piece.scenes.values()) {
    const at = { table: 'scenes' as const, id: scene.id, scene: scene.id, layer: null };
    name({ ...at, path: ['name'], where: `name of the ${scene.use}` }, scene.name);
    for (const [id, state] of Object.entries(scene.states ?? {})) name({ ...at, path: ['states', id, 'name'], where: 'name of a state' }, state.name);
    for (const [id, label] of Object.entries(scene.timeline?.labels ?? {}))
      name({ ...at, path: ['timeline', 'labels', id, 'name'], where: 'name of a label' }, label.name);
  }
  for (const { id, scene, name: now } of piece.layers.values())
    name({ table: 'layers', id, path: ['name'], scene, layer: id, where: 'name of a layer' }, now);
  for (const { id, scene, name: now } of piece.variables.values())
    name({ table: 'variables', id, path: ['name'], scene, layer: null, where: 'name of a variable' }, now);
  for (const { id, name: now } of swatchesOf(piece.head))
    name({ table: 'piece', id: piece.head.id, path: ['swatches', id, 'name'], scene: null, layer: null, where: 'name of a swatch' }, now);
  return hits;
}

function nameFault(name: string): string | null {
  if (name.trim() === '') return 'No name would be left.';
  return name.trim().length > MOST_NAME ? `A name has at most ${MOST_NAME} signs.` : null;
}

// ── texts, bindings, threads ─────────────────────────────────────────────────

/** What layers, and scenes in their states, say or compute, each as people write it. */
function* writtenIn(piece: Piece, kind: 'texts' | 'bindings'): Iterable<Place & { readonly value: string }> {
  const wanted = kind === 'texts' ? 'text' : 'expression';
  const of = (table: 'layers' | 'scenes', entity: Entity) =>
    fieldsOf(table, entity).flatMap(({ reads, value, path }) => (reads === wanted && value !== null ? [{ path, value }] : []));
  for (const layer of piece.layers.values())
    for (const { path, value } of of('layers', layer))
      yield { kind, table: 'layers', id: layer.id, path, value, scene: layer.scene, layer: layer.id, where: pathWords(piece, path, layer.name) };
  for (const scene of piece.scenes.values())
    for (const { path, value } of of('scenes', scene)) {
      const layer = path[0] === 'states' ? (path[3] ?? null) : null;
      const known = layer !== null && piece.layers.has(layer) ? layer : null;
      const name = known === null ? scene.name : piece.layers.get(known)!.name;
      const state = path[0] === 'states' ? (scene.states?.[path[1]!]?.name ?? null) : null;
      yield {
        kind,
        table: 'scenes',
        id: scene.id,
        path,
        value,
        scene: scene.id,
        layer: known,
        where: `${pathWords(piece, path.slice(state === null ? 0 : 4), name)}${state === null ? '' : ` while ${state}`}`,
      };
    }
}

/** A field in words: `text of Pay button, hover`. */
function pathWords(piece: Piece, path: readonly string[], name: string): string {
  const [first, second] = path;
  if (first === 'looks') return `${path.at(-1)} of ${name}, ${second}`;
  if (first === 'fills') return `text of ${piece.layers.get(second!.split('/').at(-1)!)?.name ?? second} in ${name}`;
  if (first === 'bindings') return `${second} of ${name}`;
  return `${path.at(-1)} of ${name}`;
}

function textsIn(piece: Piece, sought: Sought): Hit[] {
  return Array.from(writtenIn(piece, 'texts')).flatMap((place) => {
    const scope = expressionScope(piece, place.scene);
    const before = displayText(place.value, scope);
    const write = (after: string) => {
      const { text, faults } = storeText(after, scope);
      return faults[0]?.fault.sentence ?? [setIn(place, text)];
    };
    // What is computed in a text is no text, unless its braces are looked for too.
    const computed = /[{}]/.test(sought.find) ? [] : textParts(before).filter(({ expression }) => expression !== undefined);
    const isText = (from: number, to: number) => !computed.some((part) => from < part.from + part.expression!.length && to > part.from);
    return hitIn(place, before, sought, write, isText);
  });
}

/** What is written beside what people see: where nothing is left of it, it is gone. */
function notesIn(piece: Piece, sought: Sought): Hit[] {
  const hits: Hit[] = [];
  const note = (place: Omit<Place, 'kind'>, before: string | undefined, write = (after: string): unknown => after.trim() || undefined) => {
    const whole: Place = { kind: 'notes', ...place };
    if (before !== undefined) hits.push(...hitIn(whole, before, sought, (after) => [setIn(whole, write(after))]));
  };
  for (const { id, name, note: now } of piece.scenes.values())
    note({ table: 'scenes', id, path: ['note'], scene: id, layer: null, where: `note of ${name}` }, now);
  for (const { id, scene, name, label } of piece.layers.values())
    note({ table: 'layers', id, path: ['label'], scene, layer: id, where: `what ${name} is called where it is not seen` }, label);
  for (const thread of piece.threads.values()) {
    const layer = thread.on === 'layer' ? thread.owner : null;
    const place = { table: 'threads' as const, id: thread.id, path: ['note'], scene: sceneOfThread(piece, thread), layer };
    note({ ...place, where: `note of a thread of ${ownerOf(piece, thread) ?? 'the piece'}` }, thread.note);
  }
  for (const { id, name } of piece.assets.values())
    note({ table: 'assets', id, path: ['name'], scene: null, layer: null, where: 'name of a file' }, name, (after) => after.trim());
  return hits;
}

const ownerOf = (piece: Piece, { on, owner }: Thread): string | undefined => (on === 'layer' ? piece.layers : piece.scenes).get(owner)?.name;

function bindingsIn(piece: Piece, sought: Sought): Hit[] {
  return Array.from(writtenIn(piece, 'bindings')).flatMap((place) => {
    const scope = expressionScope(piece, place.scene);
    return hitIn(place, displayExpression(place.value, scope).text, sought, (after) => {
      const stored = storeExpression(after, scope);
      return stored.ok ? [setIn(place, stored.value)] : stored.error.sentence;
    });
  });
}

function threadsIn(piece: Piece, sought: Sought): Hit[] {
  return [...piece.threads.values()].flatMap((thread) => {
    const scope = scopeFor(piece, thread);
    const layer = thread.on === 'layer' ? thread.owner : null;
    const where = `thread of ${ownerOf(piece, thread) ?? 'the piece'}`;
    const place: Place = { kind: 'threads', table: 'threads', id: thread.id, path: [], scene: sceneOfThread(piece, thread), layer, where };
    return hitIn(place, printLine(thread, scope), sought, (after) => {
      const read = parseLine(after, scope);
      if (!read.ok) return read.error.message;
      const { cue, branches } = read.value;
      return [setIn({ ...place, path: ['cue'] }, cue), setIn({ ...place, path: ['branches'] }, branches)];
    });
  });
}

// ── colours ──────────────────────────────────────────────────────────────────

/** A colour as it stands in the document, by what people write: `#rgb`, `#rrggbb`, with two digits more for how opaque it is, or a swatch. */
export function paintWritten(piece: Piece, written: string): string | null {
  const text = written.trim();
  const short = /^#?([0-9a-f]{3})$/i.exec(text)?.[1];
  if (short) return `#${[...short].map((digit) => digit + digit).join('')}`.toLowerCase();
  if (/^#?(?:[0-9a-f]{6}|[0-9a-f]{8})$/i.test(text)) return `#${text.replace('#', '')}`.toLowerCase();
  const swatch = swatchesOf(piece.head).find(({ name }) => name.toLowerCase() === text.toLowerCase());
  return swatch ? paintOf(swatch.id) : null;
}

function coloursIn(piece: Piece, { find, put }: Sought): Hit[] {
  const wanted = paintWritten(piece, find);
  if (wanted === null) return [];
  const next = paintWritten(piece, put);
  const words = (paint: string) => {
    const swatch = swatchIn(paint);
    return swatch === null ? paint : (piece.head.swatches?.[swatch]?.name ?? paint);
  };
  const fault = next === null ? `“${put}” is no colour: write #rrggbb, or the name of a swatch.` : next === wanted ? NO_OTHER : null;
  return paintsIn(piece)
    .filter(({ value }) => value.toLowerCase() === wanted)
    .map(({ table, id, path, value }): Hit => {
      const owner = table === 'layers' ? piece.layers.get(id) : undefined;
      const inState = path[0] === 'states' ? piece.layers.get(path[3] ?? '') : undefined;
      const name = owner?.name ?? inState?.name ?? piece.scenes.get(id)!.name;
      const where = `${path.at(-1) === 'color' ? path.at(-2)! : path.at(-1)!} of ${name}`;
      const place: Place = { kind: 'colours', table, id, path, scene: owner?.scene ?? id, layer: owner?.id ?? inState?.id ?? null, where };
      const before = words(value);
      return hitAt(place, { before, after: next === null ? put : words(next), at: [[0, before.length]] }, fault ?? [setIn(place, next)]);
    });
}
