import { onceFor } from '../once.ts';
import { displayExpression, writeThing, type ExpressionScope } from '../expression/names.ts';
import { expressionScope } from '../expression/scope.ts';
import { framesOf, sceneOfThread, scenesOf, statesOf, type Layer, type Piece, type Scene, type Thread } from '../piece/piece.ts';
import { writeRaw, STOPS } from './raw.ts';

export interface Named {
  readonly id: string;
  readonly name: string;
}

/** What a line of a thread can name, seen from where the thread stands. */
export interface LineScope {
  readonly frames: readonly Named[];
  /** Layers; those inside placements by their paths. */
  readonly layers: readonly Named[];
  readonly variables: readonly Named[];
  /** What can be in a state besides the thread's own scene: placements, frames, sheets. */
  readonly stateful: readonly Named[];
  /** The scene itself, where it has states: what *this* means in a step may be said by its name as well. */
  readonly itself: readonly Named[];
  /** What has a timeline, or is media: placements, groups, video and sound. */
  readonly playable: readonly Named[];
  /** The scene that the thread stands in: what steps mean that name nothing. Null for the piece. */
  readonly scene: string | null;
  /** The states of a placement or scene; where none is named, of what cues mean: the placement it belongs to, else its scene. */
  readonly statesOf: (of: string | undefined) => readonly Named[];
  readonly labelsOf: (of: string | undefined) => readonly Named[];
  /** Conditions that are likely here: layers that can be selected, as `Name.selected`, and yes/no variables. */
  readonly conditions: readonly string[];
  /** The layer that the thread belongs to: “this” means it too. */
  readonly owner: string | null;
  readonly expression: ExpressionScope;
}

/** Most of a scope is never asked for, so it is found when it is. */
const once = <T>(make: () => T): (() => T) => {
  let made: T | undefined;
  return () => (made ??= make());
};

const scopesIn = onceFor((_: Piece) => new Map<string, LineScope>());

/** The scope of a scene's threads; null is the piece. `owner` is the layer a thread belongs to. Made once for each. */
export function scopeOf(piece: Piece, scene: string | null = null, owner: string | null = null): LineScope {
  const known = scopesIn(piece);
  const key = `${scene ?? ''} ${owner ?? ''}`;
  let scope = known.get(key);
  if (!scope) known.set(key, (scope = makeScope(piece, scene, owner)));
  return scope;
}

function makeScope(piece: Piece, scene: string | null, owner: string | null): LineScope {
  const expression = once(() => expressionScope(piece, scene));
  const layers = once(() => expression().things.filter((thing) => thing.kind === 'layer'));
  const variables = once(() => expression().things.filter((thing) => thing.kind === 'variable'));
  const typeOf = (id: string) => piece.layers.get(id)?.type;
  const stateful = once(() => {
    const scenes = [...scenesOf(piece, 'frame'), ...scenesOf(piece, 'sheet')];
    return [...layers().filter(({ id }) => typeOf(id) === 'placement'), ...scenes.filter((one) => one.states && one.id !== scene)];
  });
  const playable = once(() => layers().filter(({ id }) => ['placement', 'group', 'video', 'sound'].includes(typeOf(id) ?? '')));
  const subject = (of: string | undefined): Scene | undefined => {
    if (of === undefined) return piece.scenes.get((owner === null ? undefined : piece.layers.get(owner)?.part) ?? scene ?? '');
    return piece.scenes.get(of) ?? piece.scenes.get(piece.layers.get(of.split('/').at(-1)!)?.part ?? '');
  };
  return {
    get frames() {
      return framesOf(piece);
    },
    get layers() {
      return layers();
    },
    get variables() {
      return variables();
    },
    get stateful() {
      return stateful();
    },
    get itself() {
      const own = piece.scenes.get(scene ?? '');
      return own?.states ? [own] : [];
    },
    get playable() {
      return playable();
    },
    scene,
    statesOf: (of) => {
      const found = subject(of);
      return found ? statesOf(found) : [];
    },
    labelsOf: (of) => Object.entries(subject(of)?.timeline?.labels ?? {}).map(([id, { name }]) => ({ id, name })),
    get conditions() {
      const selectable = layers().filter(({ id }) => id !== owner && canBeSelected(piece.layers.get(id)));
      const flags = variables().filter(({ id }) => piece.variables.get(id)?.type === 'yes/no');
      const states = layers().flatMap(({ id, name }) =>
        statesOf(piece.scenes.get(piece.layers.get(id)?.part ?? '') ?? NO_STATES)
          .slice(1, 4)
          .map((state) => `${writeThing(name)}.state = ${JSON.stringify(state.name)}`)
      );
      return [...selectable.map(({ name }) => `${writeThing(name)}.selected`), ...states, ...flags.map(({ name }) => writeThing(name))];
    },
    owner,
    get expression() {
      return expression();
    },
  };
}

const NO_STATES = { states: {} } as Scene;

const canBeSelected = (layer: Layer | undefined): boolean =>
  layer !== undefined &&
  (layer.selected !== undefined ||
    layer.choice !== undefined ||
    layer.looks?.selected !== undefined ||
    ['checkbox', 'switch'].includes(layer.field?.kind ?? ''));

/** The scope in which a thread is written. */
export const scopeFor = (piece: Piece, thread: Pick<Thread, 'on' | 'owner'>): LineScope =>
  scopeOf(piece, sceneOfThread(piece, thread as Thread), thread.on === 'layer' ? thread.owner : null);

/** What is known of a list of named things, found once for each list. */
interface Index {
  readonly at: ReadonlyMap<string, number>;
  /** For each thing, how many before it have its name. */
  readonly ordinals: readonly number[];
  /** The names in lower case. */
  readonly sorted: readonly string[];
  readonly written: Map<string, readonly string[]>;
}

const indexOf = onceFor((things: readonly Named[]): Index => {
  const counts = new Map<string, number>();
  const ordinals = things.map(({ name }) => {
    const before = counts.get(name) ?? 0;
    counts.set(name, before + 1);
    return before;
  });
  return {
    at: new Map(things.map(({ id }, i) => [id, i])),
    ordinals,
    sorted: things.map(({ name }) => name.toLowerCase()).sort(),
    written: new Map(),
  };
});

/**
 * How something is written: by name; the second of two with one name as `Name #2`; one that is not there as `?id`, one not
 * chosen yet as `?`.
 */
export function writeNamed(things: readonly Named[], id: string | null, reserved: readonly string[] = []): string {
  if (id === null) return '?';
  const index = indexOf(things);
  const at = index.at.get(id);
  return at === undefined ? `?${id}` : writeAt(things, index, at, reserved);
}

/** All things of a list as they are written; made once for each list and what may follow in the line. */
export function writtenNames(things: readonly Named[], reserved: readonly string[] = []): readonly string[] {
  const index = indexOf(things);
  const key = reserved.join('\n');
  const known = index.written.get(key);
  if (known) return known;
  const names = things.map((_, at) => writeAt(things, index, at, reserved));
  index.written.set(key, names);
  return names;
}

/** A name, in quotes where it could be taken for more or for less than it is. */
function writeAt(things: readonly Named[], { ordinals, sorted }: Index, at: number, reserved: readonly string[]): string {
  const { name } = things[at]!;
  const longer = reserved.some((word) => holdsPrefix(sorted, `${name} ${word.trim()}`.toLowerCase()));
  const bare = writeRaw(name, reserved, NAME_STOPS);
  const one = longer && !bare.startsWith('"') ? JSON.stringify(name) : bare;
  return ordinals[at]! > 0 ? `${one} #${ordinals[at]! + 1}` : one;
}

/** Whether any of some sorted texts begins so. */
function holdsPrefix(sorted: readonly string[], prefix: string): boolean {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < prefix) low = middle + 1;
    else high = middle;
  }
  return sorted[low]?.startsWith(prefix) ?? false;
}

/** Names end at a comma too, since a transition may be written behind one. */
export const NAME_STOPS = [...STOPS, ','];

/** The thing of a name: the exact one, else the only one that differs in case. */
export function findNamed(things: readonly Named[], name: string, ordinal: number): string | null {
  const exact = things.filter((thing) => thing.name === name);
  if (exact.length) return exact[ordinal - 1]?.id ?? null;
  const alike = things.filter((thing) => thing.name.toLowerCase() === name.toLowerCase());
  return alike[ordinal - 1]?.id ?? null;
}

export { displayExpression };
