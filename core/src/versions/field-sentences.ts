import type { Layer, Piece, Scene } from '../piece/piece.ts';
import { fieldChanges, type FieldChange } from './equal.ts';
import { fieldWords, valueIn } from './value-words.ts';

/** What is otherwise in a layer, a scene, a variable …, a sentence for each field. */

export interface Sides {
  readonly before: Piece;
  readonly after: Piece;
}

/** Fields that say where something stands among others of its kind, and what keeps its parts in step: no person asks for their values. */
const PLACES: Readonly<Record<string, string>> = {
  order: 'stands elsewhere in its order',
  parent: 'is in another group',
  onMap: 'stands elsewhere on the map',
};

/** A thing inside a scene, as it is in the later version, or as it was where it is gone. */
function either<T>({ before, after }: Sides, scene: Scene | null, get: (scene: Scene) => T | undefined): T | undefined {
  for (const piece of [after, before]) {
    const found = piece.scenes.get(scene?.id ?? '');
    const one = found && get(found);
    if (one !== undefined) return one;
  }
  return undefined;
}

const GONE = 'one that is gone';

const layerName = ({ before, after }: Sides, path: string): string => {
  const id = path.split('/').at(-1)!;
  return (after.layers.get(id) ?? before.layers.get(id))?.name ?? 'a layer that is gone';
};

function trackWords(sides: Sides, scene: Scene | null, key: string): string {
  const track = either(sides, scene, ({ timeline }) => timeline?.tracks?.[key]);
  return track ? `${track.property} of ${layerName(sides, track.layer)}` : GONE;
}

/** Where a keyframe stands, counted from 1. */
function keyWords(sides: Sides, scene: Scene | null, track: string, key: string): string {
  const found = either(sides, scene, ({ timeline }) => timeline?.tracks?.[track]?.keys[key]);
  return found ? `at ${found.time + 1}` : 'that is gone';
}

interface Said {
  /** Where it is, from the outside in. */
  readonly where: readonly string[];
  /** What is called there; null where a whole thing came or went. */
  readonly field: string | null;
}

/** The place of a field in words. */
function placeOf(sides: Sides, scene: Scene | null, path: readonly string[]): Said {
  const [first = '', second, third, fourth, fifth] = path;
  /** So many steps of the path say where it is; a field where it goes on. */
  const at = (length: number, ...where: string[]): Said => ({ where, field: path.length > length ? leaf(path.slice(length)) : null });
  if (second === undefined) return first === 'timeline' ? { where: ['timeline'], field: null } : { where: [], field: leaf(path) };
  switch (first) {
    case 'states': {
      const state = `state “${either(sides, scene, ({ states }) => states?.[second])?.name ?? GONE}”`;
      return third === 'deltas' && fourth !== undefined ? at(4, state, layerName(sides, fourth)) : at(2, state);
    }
    case 'timeline': {
      if (third === undefined) return { where: ['timeline'], field: leaf(path.slice(1)) };
      if (second === 'tracks') {
        const track = `timeline, ${trackWords(sides, scene, third)}`;
        return fourth === 'keys' && fifth !== undefined ? at(5, `${track}, keyframe ${keyWords(sides, scene, third, fifth)}`) : at(3, track);
      }
      if (second === 'labels') return at(3, `section “${either(sides, scene, ({ timeline }) => timeline?.labels?.[third])?.name ?? GONE}”`);
      const span = either(sides, scene, ({ timeline }) =>
        second === 'spans' ? timeline?.spans?.[third] : second === 'cues' ? timeline?.cues?.[third] : undefined
      );
      return at(3, `timeline, ${second === 'spans' ? 'presence' : 'sound and film'} of ${span ? layerName(sides, span.layer) : GONE}`);
    }
    case 'choices':
      return at(2, `choice “${either(sides, scene, ({ choices }) => choices?.[second])?.name ?? GONE}”`);
    case 'looks': {
      const look = `look ${second === 'selectedHover' ? 'selected and hovered' : second}`;
      return third === 'inside' && fourth !== undefined ? at(4, look, layerName(sides, fourth)) : at(2, look);
    }
    case 'fills':
      return at(2, `what fills ${layerName(sides, second)}`);
    case 'bindings':
      return { where: [], field: `${second} is bound to` };
    default:
      return { where: [], field: leaf(path) };
  }
}

const words: Readonly<Record<string, string>> = {
  contentHeight: 'height of what scrolls',
  stateIs: 'the state it is always in',
  initial: 'begins as',
  onReturn: 'on coming back',
  draft: 'still to be drawn',
  ending: 'may be an ending',
  'hit.grow': 'margin of the hit area',
  'hit.how': 'what the hit area does',
  'hit.shape': 'shape of the hit area',
  hit: 'hit area',
  field: 'what the field is',
  label: 'name for screen readers',
  copyOf: 'what it is a copy of',
  turnsAlong: 'turns the way it moves',
  disabled: 'disabled',
  use: 'what it is used as',
  carries: 'sheets it carries',
  fps: 'timeline frames a second',
  start: 'begins on',
  choiceValue: 'what choosing it gives',
  time: 'at timeline frame',
};

const leaf = (path: readonly string[]): string => {
  const field = path.join('.');
  return words[field] ?? (path.length > 1 ? (words[path.at(-1)!] ?? fieldWords(field)).replaceAll('.', ', ') : fieldWords(field));
};

/** All that is otherwise in a thing, each sentence once. */
export const changeSentences = (sides: Sides, scene: Scene | null, before: object, after: object): string[] => [
  ...new Set(
    fieldChanges(before, after)
      .flatMap(oneByOne)
      .map((change) => changeSentence(sides, scene, change))
  ),
];

/** What holds things by their ids: where all of them come or go, each is told. */
const HOLDERS: ReadonlySet<string> = new Set([
  'states',
  'looks',
  'bindings',
  'fills',
  'choices',
  'timeline.labels',
  'timeline.tracks',
  'timeline.spans',
  'timeline.cues',
]);

function oneByOne(change: FieldChange): FieldChange[] {
  const { path, before, after } = change;
  if (!HOLDERS.has(path.join('.')) || (before !== undefined && after !== undefined)) return [change];
  const [was, is] = [before ?? {}, after ?? {}] as [Record<string, unknown>, Record<string, unknown>];
  return [...new Set([...Object.keys(was), ...Object.keys(is)])].map((key) => ({ path: [...path, key], before: was[key], after: is[key] }));
}

/** A whole thing, rather than one value. */
const isThing = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);

/** A difference in words, without the thing that it is in. */
function changeSentence(sides: Sides, scene: Scene | null, { path, before, after }: FieldChange): string {
  const place = PLACES[path[0] ?? ''];
  if (place !== undefined && path.length <= 2) return place;
  const { where, field } = placeOf(sides, scene, path);
  const at = where.join(', ');
  if (field === null) return `${at} is ${before === undefined ? 'new' : after === undefined ? 'gone' : 'changed'}`;
  if (path.at(-1) === 'order') return `${at} stands elsewhere in its order`;
  const prefix = at && `${at}: `;
  if ((before === undefined && isThing(after)) || (after === undefined && isThing(before)))
    return `${prefix}${field} is ${before === undefined ? 'new' : 'gone'}`;
  const [was, is] = [valueOf(sides.before, scene, path, before), valueOf(sides.after, scene, path, after)];
  return was === is ? `${prefix}${field} is changed` : `${prefix}${field} ${quoted(path, is)} instead of ${quoted(path, was)}`;
}

/** States are named by their scene, or by the part that is placed. */
function valueOf(piece: Piece, scene: Scene | null, path: readonly string[], value: unknown): string {
  // Moments are counted from 1 where people see them.
  if (typeof value === 'number' && path[0] === 'timeline' && ['time', 'from', 'to'].includes(path.at(-1)!)) return String(value + 1);
  if (typeof value === 'string' && (path.at(-1) === 'initial' || path.at(-1) === 'state')) {
    const named = [piece.scenes.get(scene?.id ?? ''), ...piece.scenes.values()]
      .map((one) => one?.states?.[value]?.name)
      .find((name) => name !== undefined);
    if (named !== undefined) return named;
  }
  return valueIn(piece, scene?.id ?? null, value);
}

const quoted = (path: readonly string[], value: string): string =>
  path.at(-1) === 'text' && value !== 'none' && value !== 'empty' ? `“${value}”` : value;

/** The scene that a layer is in, for the words of what it holds. */
export const sceneOf = (sides: Sides, layer: Layer): Scene | null =>
  sides.after.scenes.get(layer.scene) ?? sides.before.scenes.get(layer.scene) ?? null;
