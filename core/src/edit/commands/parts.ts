import { byOrder, layersUnder, scenesOf, statesOf, threadsOf, type Layer, type Piece, type Scene, type Thread } from '../../piece/piece.ts';
import { union, type Rect } from '../../program/geometry.ts';
import type { Item, Program, SceneProgram } from '../../program/program.ts';
import { framesPerSecond } from '../../run/playhead.ts';
import { takeName } from '../../words.ts';
import type { Operation } from '../operation.ts';
import { keyBetween, keysBetween } from '../order.ts';
import { withDelta } from '../reach/pose.ts';
import { timeOf, withLayerTime, withoutLayers } from '../time/along.ts';
import { timelineOperations } from '../time/timeline.ts';
import type { MakeId } from '../make-id.ts';
import { inPlaceOf, originOf, outermost } from './inside.ts';
import { newLayer } from './layers.ts';
import { renamedLayer, renamedThread, withSteps } from './remap.ts';

/** Edits that move layers into scenes of their own, parts and sheets, and back. What the piece shows and does stays the same. */

export interface Extracted {
  readonly operations: Operation[];
  /** The new part or sheet. */
  readonly scene: string;
  /** The placement that stands for the layers; null for a sheet. */
  readonly placement: string | null;
  /** The new ids of the layers, by their old ones. */
  readonly names: ReadonlyMap<string, string>;
}

/** Puts layers into a new part, and a placement of it where they were. Null where there is nothing to take. */
export function makePart(program: Program, scene: string, ids: readonly string[], name: string, makeId: MakeId): Extracted | null {
  const taken = takeLayers(program, scene, ids, makeId);
  if (!taken) return null;
  const part = newScene(program.piece, 'part', makeId(), name, taken.around);
  const { placement, operations } = placeFor(program, scene, taken, part, {}, makeId);
  return {
    scene: part.id,
    placement,
    names: taken.names,
    operations: [
      { op: 'put', table: 'scenes', value: part },
      ...taken.layersIn(part.id, { x: -taken.around.x, y: -taken.around.y }),
      ...taken.threadsIn(scene),
      ...operations,
    ],
  };
}

/** Puts a placement of a part, filled in, where layers are that are as those of the part, in their place; names say for each which it is. */
export function placeInstead(
  program: Program,
  { scene, names, fills }: { readonly scene: string; readonly names: ReadonlyMap<string, string>; readonly fills: NonNullable<Layer['fills']> },
  part: Scene,
  makeId: MakeId
): Operation[] {
  const taken = takeLayers(program, scene, [...names.keys()], makeId, (id) => names.get(id)!);
  return taken ? placeFor(program, scene, taken, part, fills, makeId).operations : [];
}

/** A placement that stands for layers, which go; what speaks of them speaks of those of the part. */
function placeFor(
  program: Program,
  scene: string,
  taken: Taken,
  part: Pick<Scene, 'id' | 'name'>,
  fills: NonNullable<Layer['fills']>,
  makeId: MakeId
): { readonly placement: string; readonly operations: Operation[] } {
  const { piece } = program;
  const placement = makeId();
  const { around, origin, names } = taken;
  const paths = new Map([...names].map(([old, made]) => [old, `${placement}/${made}`]));
  const shift = { x: -around.x, y: -around.y };
  const value: Layer = {
    id: placement,
    scene,
    parent: taken.parent,
    order: taken.order,
    name: freeLayerName(piece, scene, part.name),
    type: 'placement',
    pose: { ...around, x: around.x - origin.x, y: around.y - origin.y },
    style: {},
    part: part.id,
    ...(Object.keys(fills).length && { fills }),
  };
  const operations: Operation[] = [
    { op: 'put', table: 'layers', value },
    ...follow(piece, scene, taken, paths, shift),
    ...timeInPart(program, scene, taken, placement, paths, makeId),
    ...taken.removals,
  ];
  return { placement, operations };
}

/** Puts layers into a new sheet that frames carry over (or under) their own layers. */
export function makeSheet(
  program: Program,
  scene: string,
  ids: readonly string[],
  name: string,
  frames: readonly string[],
  place: 'over' | 'under',
  makeId: MakeId
): Extracted | null {
  const taken = takeLayers(program, scene, ids, makeId);
  const own = program.piece.scenes.get(scene);
  if (!taken || !own) return null;
  const { piece } = program;
  const sheet = newScene(piece, 'sheet', makeId(), name, { x: 0, y: 0, width: own.width, height: own.height });
  return {
    scene: sheet.id,
    placement: null,
    names: taken.names,
    operations: [
      { op: 'put', table: 'scenes', value: timeInSheet(piece, scene, taken, sheet, makeId) },
      ...taken.layersIn(sheet.id, { x: 0, y: 0 }),
      ...taken.threadsIn(null),
      ...frames.flatMap((frame) => carry(piece, frame, sheet.id, place)),
      ...follow(piece, scene, taken, taken.names, null),
      ...timeLeft(piece, scene, taken),
      ...taken.removals,
    ],
  };
}

/** Makes a frame carry a sheet, in front of the sheets it has. */
export function carry(piece: Piece, frame: string, sheet: string, place: 'over' | 'under'): Operation[] {
  const carries = (piece.scenes.get(frame)?.carries ?? []).filter((one) => one.sheet !== sheet);
  return [{ op: 'set', table: 'scenes', id: frame, path: ['carries'], value: [...carries, { sheet, place }] }];
}

/** Frames that carry a sheet no longer do. */
export function putDown(piece: Piece, frame: string, sheet: string): Operation[] {
  const left = (piece.scenes.get(frame)?.carries ?? []).filter((one) => one.sheet !== sheet);
  return [{ op: 'set', table: 'scenes', id: frame, path: ['carries'], ...(left.length && { value: left }) }];
}

/** The frames that carry a sheet, in order. */
export const carriersOf = (piece: Piece, sheet: string): Scene[] =>
  scenesOf(piece, 'frame').filter((frame) => frame.carries?.some((one) => one.sheet === sheet));

/** The placements that show a part. */
export const placementsOf = (piece: Piece, part: string): Layer[] => [...piece.layers.values()].filter((layer) => layer.part === part).sort(byOrder);

/** Whether a part shows another one, at any depth, or is it. */
export function partHolds(piece: Piece, part: string, other: string, seen = new Set<string>()): boolean {
  if (part === other) return true;
  if (seen.has(part)) return false;
  seen.add(part);
  return [...(piece.index.layersOf.get(part) ?? [])].some((id) => {
    const inner = piece.layers.get(id)?.part;
    return inner !== undefined && partHolds(piece, inner, other, seen);
  });
}

/** The first place in the middle of a scene, from above, where something of a size covers no other layer; its middle where there is none. */
function freeMiddle(piece: Piece, scene: Scene, { width, height }: { width: number; height: number }): { x: number; y: number } {
  const x = scene.width / 2;
  const room = Math.min(scene.height, 844);
  const taken = layersUnder(piece, scene.id, null)
    .filter((layer) => !layer.hidden && !layer.locked)
    .map(({ pose }) => pose);
  for (let top = Math.min(120, room / 8); top + height <= room; top += 8) {
    const free = taken.every(
      (box) => box.y >= top + height + 8 || box.y + box.height + 8 <= top || box.x >= x + width / 2 || box.x + box.width <= x - width / 2
    );
    if (free) return { x, y: top + height / 2 };
  }
  return { x, y: room / 2 };
}

/** A placement of a part, in front, with its middle at a point of the scene; where nothing else is, if none is given. */
export function placePart(piece: Piece, scene: string, part: string, id: string, middle?: { x: number; y: number }): Operation[] {
  const shown = piece.scenes.get(part);
  const around = piece.scenes.get(scene);
  if (!shown || !around || partHolds(piece, part, scene)) return [];
  const at = middle ?? freeMiddle(piece, around, shown);
  const pose = { x: Math.round(at.x - shown.width / 2), y: Math.round(at.y - shown.height / 2), width: shown.width, height: shown.height };
  return [newLayer(piece, { id, scene, name: freeLayerName(piece, scene, shown.name), type: 'placement', pose, style: {}, part })];
}

/** A placement shows another part: what was filled in stays where a layer of the same name takes it, its state where one has its name. */
export function replacePart(piece: Piece, placement: string, part: string): Operation[] {
  const layer = piece.layers.get(placement);
  const [before, after] = [piece.scenes.get(layer?.part ?? ''), piece.scenes.get(part)];
  if (!layer || !after || partHolds(piece, part, layer.scene)) return [];
  const { fills, state, ...rest } = layer;
  const byName = new Map([...(piece.index.layersOf.get(part) ?? [])].map((id) => [piece.layers.get(id)!.name, id]));
  const kept = Object.fromEntries(
    Object.entries(fills ?? {}).flatMap(([path, fill]) => {
      const found = byName.get(piece.layers.get(path)?.name ?? '');
      return found === undefined ? [] : [[found, fill]];
    })
  );
  const stateName = state === undefined ? undefined : before?.states?.[state]?.name;
  const sameState = statesOf(after).find((one) => one.name === stateName);
  const wasWhole = before && layer.pose.width === before.width && layer.pose.height === before.height;
  const value: Layer = {
    ...rest,
    part,
    ...(Object.keys(kept).length && { fills: kept }),
    ...(sameState && { state: sameState.id }),
    ...(wasWhole && { pose: { ...layer.pose, width: after.width, height: after.height } }),
  };
  return [{ op: 'put', table: 'layers', value }];
}

/** Puts the layers of a part where its placement was, in a group, as they are in its state; they have nothing to do with the part any more. */
export function takeApart(program: Program, placement: string, makeId: MakeId): { operations: Operation[]; group: string | null } {
  const { piece } = program;
  const layer = piece.layers.get(placement);
  const part = program.scenes.get(layer?.part ?? '');
  if (!layer || !part) return { operations: [], group: null };
  const group = makeId();
  const names = new Map(part.items.map(({ layer: inner }) => [inner.id, makeId()]));
  const [sx, sy] = [layer.pose.width / part.scene.width, layer.pose.height / part.scene.height];
  const deltas = part.scene.states?.[layer.state ?? part.initial ?? '']?.deltas ?? {};
  const layers = part.items.map(({ layer: inner }): Layer => {
    const filled = { ...inner, ...layer.fills?.[inner.id] };
    const shown = withDelta(filled, deltas[inner.id] ?? {});
    const { pose } = shown;
    return {
      ...renamedLayer(shown, names),
      id: names.get(inner.id)!,
      scene: layer.scene,
      parent: inner.parent === null ? group : names.get(inner.parent)!,
      pose: { ...pose, x: pose.x * sx, y: pose.y * sy, width: pose.width * sx, height: pose.height * sy },
    };
  });
  const { part: _part, fills: _fills, state: _state, reentry: _reentry, looks, ...rest } = layer;
  const asGroup: Layer = { ...rest, ...(looks && { looks: withoutPaths(looks, names) }), id: group, type: 'group' };
  const own = [...threadsOf(piece, placement), ...part.threads].map((thread) => ({
    ...renamedThread(thread, names),
    id: makeId(),
    on: 'layer' as const,
    owner: group,
  }));
  const inner = part.items.flatMap((item) =>
    item.threads.map((thread) => ({ ...renamedThread(thread, names), id: makeId(), owner: names.get(item.layer.id)! }))
  );
  const keys = keysBetween(null, null, own.length);
  const threads = [...own.map((thread, i) => ({ ...thread, order: keys[i]! })), ...inner];
  const paths = new Map([[placement, group], ...[...names].map(([old, made]) => [`${placement}/${old}`, made] as const)]);
  return {
    group,
    operations: [
      { op: 'put', table: 'layers', value: asGroup },
      ...layers.map((value): Operation => ({ op: 'put', table: 'layers', value })),
      ...threads.map((value): Operation => ({ op: 'put', table: 'threads', value: value as Thread })),
      ...rewriteReferences(piece, layer.scene, new Set([placement]), paths),
      ...timeApart(piece, layer, part.scene, group, names, { sx, sy }, makeId),
      { op: 'remove', table: 'layers', id: placement },
    ],
  };
}

/** The time of a part that is taken apart goes on in that of the scene, from where its placement came in; the placement's own is the group's. */
function timeApart(
  piece: Piece,
  placement: Layer,
  part: Scene,
  group: string,
  names: ReadonlyMap<string, string>,
  { sx, sy }: { sx: number; sy: number },
  makeId: MakeId
): Operation[] {
  const fps = framesPerSecond({ piece });
  const timeline = piece.scenes.get(placement.scene)?.timeline;
  const outer = timeOf(timeline, new Set([placement.id]));
  const inner = timeOf(part.timeline, new Set(names.keys()));
  if (!outer && !inner) return [];
  const came = Math.min(...(outer?.spans.map(({ from }) => from) ?? []), Infinity);
  const paths = new Map([[placement.id, group], ...[...names].map(([old, made]) => [`${placement.id}/${old}`, made] as const)]);
  let next = timeline && withoutLayers(timeline, new Set([placement.id]));
  if (outer) next = withLayerTime(next, outer, fps, makeId, { pathOf: (old) => paths.get(old) ?? pathIn(old, paths) });
  if (inner)
    next = withLayerTime(next, inner, fps, makeId, {
      pathOf: (old) => pathIn(old, names),
      shiftOf: () => ({ dx: 0, dy: 0, sx, sy }),
      later: Number.isFinite(came) ? came : 0,
    });
  return timelineOperations(piece, placement.scene, next);
}

const withoutPaths = (looks: NonNullable<Layer['looks']>, names: ReadonlyMap<string, string>): NonNullable<Layer['looks']> =>
  Object.fromEntries(
    Object.entries(looks).map(([name, look]) => [
      name,
      look && {
        ...look,
        ...(look.inside && { inside: Object.fromEntries(Object.entries(look.inside).map(([path, d]) => [names.get(path) ?? path, d])) }),
      },
    ])
  );

/** What the layers have in time stays in the time of the scene, by their paths; when they are there is for their placement. */
function timeInPart(
  program: Program,
  scene: string,
  taken: Taken,
  placement: string,
  paths: ReadonlyMap<string, string>,
  makeId: MakeId
): Operation[] {
  const { piece } = program;
  const timeline = piece.scenes.get(scene)?.timeline;
  const time = timeOf(timeline, new Set(taken.names.keys()));
  if (!timeline || !time) return [];
  const spans = time.spans.filter((span) => taken.tops.has(span.layer));
  // Where one of them is always there, so is the part.
  const always = [...taken.tops].some((id) => !spans.some((span) => span.layer === id));
  const whole =
    spans.length && !always
      ? [{ layer: placement, from: Math.min(...spans.map(({ from }) => from)), to: Math.max(...spans.map(({ to }) => to)) }]
      : [];
  const next = withLayerTime(
    withoutLayers(timeline, new Set(taken.names.keys())),
    { ...time, spans: whole, cues: [] },
    framesPerSecond({ piece }),
    makeId,
    {
      pathOf: (old) => (old === placement ? placement : pathIn(old, paths)),
      shiftOf: (old) => (taken.tops.has(old) ? { dx: taken.origin.x - taken.around.x, dy: taken.origin.y - taken.around.y } : { dx: 0, dy: 0 }),
    }
  );
  return timelineOperations(piece, scene, next);
}

/** A sheet has a time of its own: as long as that of the scene, with what its layers have in it. */
function timeInSheet(piece: Piece, scene: string, taken: Taken, sheet: Scene, makeId: MakeId): Scene {
  const timeline = piece.scenes.get(scene)?.timeline;
  const time = timeOf(timeline, new Set(taken.names.keys()));
  if (!timeline || !time) return sheet;
  const { length, loop, autoplay } = timeline;
  const own = { length, ...(loop && { loop }), ...(autoplay === false && { autoplay }) };
  const shiftOf = (old: string) => (taken.tops.has(old) ? { dx: taken.origin.x, dy: taken.origin.y } : { dx: 0, dy: 0 });
  return { ...sheet, timeline: withLayerTime(own, time, framesPerSecond({ piece }), makeId, { pathOf: (old) => pathIn(old, taken.names), shiftOf }) };
}

/** The time of a scene when layers have gone from it. */
function timeLeft(piece: Piece, scene: string, taken: Taken): Operation[] {
  const timeline = piece.scenes.get(scene)?.timeline;
  const gone = new Set(taken.names.keys());
  return timeline && timeOf(timeline, gone) ? timelineOperations(piece, scene, withoutLayers(timeline, gone)) : [];
}

/** A path whose first layer has a new one. */
function pathIn(old: string, paths: ReadonlyMap<string, string>): string | undefined {
  const [head, ...rest] = old.split('/') as [string, ...string[]];
  const to = paths.get(head);
  return to === undefined ? undefined : [to, ...rest].join('/');
}

interface Taken {
  readonly around: Rect;
  /** Where the space of the placement begins. */
  readonly origin: { readonly x: number; readonly y: number };
  readonly parent: string | null;
  readonly order: string;
  /** New ids of the layers by their old ones. */
  readonly names: ReadonlyMap<string, string>;
  readonly tops: ReadonlySet<string>;
  readonly layersIn: (scene: string, shift: { x: number; y: number }) => Operation[];
  /** The layers' threads; steps that mean the scene they stood in name it where it is given. */
  readonly threadsIn: (before: string | null) => Operation[];
  readonly removals: Operation[];
}

/** Takes layers with all in them: as copies with other ids, for a layer cannot change its scene. */
function takeLayers(
  program: Program,
  scene: string,
  ids: readonly string[],
  makeId: MakeId,
  nameOf: (id: string) => string = () => makeId()
): Taken | null {
  const { piece } = program;
  const found = program.scenes.get(scene);
  const tops = outermost(piece, ids)
    .filter((layer) => layer.scene === scene)
    .sort(byOrder);
  const around = union(tops.flatMap((layer) => found?.byId.get(layer.id)?.box ?? []));
  if (!found || !around) return null;
  const whole = tops.flatMap((layer) => withInside(found, layer.id));
  const names = new Map(whole.map((item) => [item.layer.id, nameOf(item.layer.id)]));
  const { parent, order } = inPlaceOf(piece, tops);
  const keys = keysBetween(null, null, tops.length);
  return {
    around,
    origin: originOf(parent === null ? null : found.byId.get(parent)!),
    parent,
    order,
    names,
    tops: new Set(tops.map((layer) => layer.id)),
    layersIn: (target, shift) =>
      whole.map((item) => {
        const isTop = tops.includes(item.layer);
        const origin = originOf(item.parent);
        const pose = isTop
          ? { ...item.layer.pose, x: item.layer.pose.x + origin.x + shift.x, y: item.layer.pose.y + origin.y + shift.y }
          : item.layer.pose;
        const value = {
          ...renamedLayer(item.layer, names),
          id: names.get(item.layer.id)!,
          scene: target,
          parent: isTop ? null : names.get(item.layer.parent!)!,
          ...(isTop && { order: keys[tops.indexOf(item.layer)]! }),
          pose,
        };
        return { op: 'put', table: 'layers', value } as Operation;
      }),
    threadsIn: (before) =>
      whole.flatMap((item) =>
        item.threads.map((thread): Operation => {
          const moved = { ...renamedThread(thread, names), id: makeId(), owner: names.get(item.layer.id)! };
          return { op: 'put', table: 'threads', value: before === null ? moved : namingScene(moved, before) };
        })
      ),
    removals: tops.map((layer) => ({ op: 'remove', table: 'layers', id: layer.id })),
  };
}

const withInside = (scene: SceneProgram, id: string): Item[] => {
  const item = scene.byId.get(id);
  return item ? [item, ...item.children.flatMap((child) => withInside(scene, child.layer.id))] : [];
};

/** A state step without a name means the scene it stands in; in a part it has to say which that was. */
export const namingScene = (thread: Thread, scene: string): Thread =>
  withSteps(thread, (step) => (step.do === 'state' && step.of === undefined ? { ...step, of: scene } : step));

/** What else in the scene speaks of the layers that have moved: its states, other layers' threads and bindings. */
function follow(piece: Piece, scene: string, taken: Taken, paths: ReadonlyMap<string, string>, shift: { x: number; y: number } | null): Operation[] {
  const states = Object.entries(piece.scenes.get(scene)?.states ?? {}).flatMap(([state, { deltas }]): Operation[] => {
    const gone = Object.keys(deltas).filter((path) => taken.names.has(path.split('/')[0]!));
    if (!gone.length) return [];
    const left = Object.fromEntries(
      Object.entries(deltas).flatMap(([path, delta]) => {
        if (!gone.includes(path)) return [[path, delta]];
        if (!shift) return [];
        const [first, ...rest] = path.split('/') as [string, ...string[]];
        const pose = delta.pose && taken.tops.has(path) ? moved(delta.pose, shift, taken.origin) : delta.pose;
        return [[[paths.get(first)!, ...rest].join('/'), { ...delta, ...(pose && { pose }) }]];
      })
    );
    return [{ op: 'set', table: 'scenes', id: scene, path: ['states', state, 'deltas'], value: left }];
  });
  const own = new Set(taken.names.keys());
  return [...states, ...rewriteReferences(piece, scene, own, paths)];
}

const moved = <P extends { x?: number; y?: number }>(pose: P, shift: { x: number; y: number }, origin: { x: number; y: number }): P => ({
  ...pose,
  ...(pose.x !== undefined && { x: pose.x + origin.x + shift.x }),
  ...(pose.y !== undefined && { y: pose.y + origin.y + shift.y }),
});

/** What a layer can name others in. */
const SPEAKING = ['bindings', 'text', 'looks', 'fills'] as const;

/** Threads and layers of a scene (and threads of the piece) that name layers by paths which are others now. */
function rewriteReferences(piece: Piece, scene: string, gone: ReadonlySet<string>, paths: ReadonlyMap<string, string>): Operation[] {
  const layers = [...(piece.index.layersOf.get(scene) ?? [])].filter((id) => !gone.has(id)).map((id) => piece.layers.get(id)!);
  const owners = [piece.head.id, scene, ...layers.map((layer) => layer.id)];
  const threads = owners
    .flatMap((owner) => threadsOf(piece, owner))
    .flatMap((thread): Operation[] => {
      const { cue, branches } = renamedThread(thread, paths);
      const changed = JSON.stringify([cue, branches]) !== JSON.stringify([thread.cue, thread.branches]);
      return changed
        ? [
            { op: 'set', table: 'threads', id: thread.id, path: ['cue'], value: cue },
            { op: 'set', table: 'threads', id: thread.id, path: ['branches'], value: branches },
          ]
        : [];
    });
  const bound = layers.flatMap((layer): Operation[] => {
    const renamed = renamedLayer(layer, paths);
    return SPEAKING.filter((field) => JSON.stringify(renamed[field]) !== JSON.stringify(layer[field])).map((field) => ({
      op: 'set',
      table: 'layers',
      id: layer.id,
      path: [field],
      value: renamed[field],
    }));
  });
  return [...threads, ...bound];
}

function newScene(piece: Piece, use: 'part' | 'sheet', id: string, name: string, box: Rect): Scene {
  const all = scenesOf(piece, use);
  const order = keyBetween(all.at(-1)?.order ?? null, null);
  const free = takeName(new Set(all.map((scene) => scene.name)), name);
  return { id, use, name: free, order, width: Math.max(1, box.width), height: Math.max(1, box.height), background: '#ffffff00' };
}

const freeLayerName = (piece: Piece, scene: string, name: string): string =>
  takeName(new Set([...(piece.index.layersOf.get(scene) ?? [])].map((id) => piece.layers.get(id)!.name)), name);
