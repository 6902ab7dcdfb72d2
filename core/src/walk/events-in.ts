import { isMediaLayer } from '../vocabulary/layers/all.ts';
import { triedFor, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import type { OccasionType, Tried } from '../vocabulary/occasions.ts';
import type { Value } from '../expression/ast.ts';
import type { Thread } from '../piece/piece.ts';
import { onceFor } from '../once.ts';
import { expand, type Expansion } from '../program/expand.ts';
import { outwardNodes, threadsAt, type Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { boundsOf, type Screen, type Stood, type Surface } from '../run/resolve.ts';
import { centerOf } from '../program/geometry.ts';
import { findPlace, liveRootsOf } from '../run/environment.ts';
import { nextDeadline } from '../run/run.ts';
import { keepsPresses } from '../run/pointer.ts';
import { HEARD } from '../run/heard.ts';
import { canPressBeside, groundOf } from '../run/reach.ts';
import { showsByFocus, showsByHover } from './by-looks.ts';
import { isGroundHeld, isHeld } from './holding.ts';
import type { Pressed, RootRun, RunEvent, RunState } from '../run/state.ts';
import type { Places, Telling } from './telling.ts';
import { HELD } from './knobs.ts';

const live = (threads: readonly Thread[]): Cue[] => threads.filter((thread) => thread.enabled).map((thread) => thread.cue);

/** All that a person or the clock can do in a settled run, one event for each that something could answer. */
export function* eventsIn(program: Program, run: RunState, screen: Screen<Stood>, telling: Telling): Iterable<RunEvent> {
  yield* deedsIn(program, run, screen, telling);
  const due = nextDeadline(program, run);
  if (due !== null && due !== Infinity) yield { type: 'wait', ms: Math.max(0, due - run.clock) };
}

/** What a person can do in a settled run, whatever waits for its time there. */
export function* deedsIn(program: Program, run: RunState, screen: Screen<Stood>, telling: Telling): Iterable<RunEvent> {
  const asked = screen.surfaces.map(({ all }) => all.filter(({ node }) => isAsked(node)));
  const shown = asked.flat();
  const instances = shown.flatMap((one) => (one.node.inside ? [one.node.inside.scene] : []));
  const roots = liveRootsOf(program, run).flatMap((scene) => program.scenes.get(scene) ?? []);
  const all = [
    ...shown.flatMap((one) => live(one.node.item.threads)),
    ...[...roots, ...instances].flatMap((scene) => live(scene.threads)),
    ...live(program.threads),
  ];
  if (run.pressed) {
    yield* lettingGo(program, run, run.pressed);
    yield* unpointed(program, run, all, telling);
    return;
  }
  const held = heldOn(shown, run, telling);
  const front = screen.surfaces.findLastIndex((surface) => keepsPresses(surface, run));
  for (const [i, surface] of screen.surfaces.entries())
    for (const one of asked[i]!)
      for (const event of eventsOn(one, screen, run.roots[surface.scene]!, telling))
        if (isFree(event, one.node, held, run) && (i >= front || !isPointing(event))) yield event;
  if (held.length === 0) {
    for (const surface of screen.surfaces) yield* onGround(program, run, surface);
    if (run.overlays.at(-1)?.closes && canPressBeside({ program, run })) yield { type: 'beside' };
  }
  if (run.over.length) yield { type: 'leave' };
  if (run.focus !== null) yield { type: 'focus', layer: null };
  yield* scrolling(all, screen, shown);
  yield* unpointed(program, run, all, telling);
}

/** What is done without pointing at anything. */
function* unpointed(program: Program, run: RunState, shown: readonly Cue[], telling: Telling): Iterable<RunEvent> {
  const roots = liveRootsOf(program, run).flatMap((id) => {
    const scene = program.scenes.get(id);
    return scene ? expand(program, scene) : [];
  });
  // Keys and buttons come to hidden parts as well, though to no hidden layer; a signal comes to all that is hidden.
  const all = [...shown, ...roots.flatMap((root) => cuesOfParts(root))];
  yield* tried(all, 'key');
  const buttons = tried(all, 'pad').map(({ button }) => button);
  for (const button of new Set([...buttons, ...(telling.pad ? telling.compared.valuesOf('pad.button').filter(isButton) : [])]))
    yield { type: 'pad', button };
  yield* tried([...roots.flatMap((root) => signalCues(root)), ...live(program.threads)], 'signal');
}

const cuesOfParts = onceFor(({ instances }: Expansion): readonly Cue[] =>
  [...instances.values()].slice(1).flatMap(({ scene }) => live(scene.threads))
);

const signalCues = onceFor(({ threaded, instances }: Expansion): readonly Cue[] => {
  const all = [...threaded.map(({ item }) => item.threads), ...[...instances.values()].map(({ scene }) => scene.threads)];
  return all.flatMap(live).filter(({ type }) => type === 'signal');
});

/** What is held is let go there or, where it is not dragged along, elsewhere. */
function* lettingGo(program: Program, run: RunState, { node }: Pressed): Iterable<RunEvent> {
  yield { type: 'let-go', where: 'there' };
  const isDragged = outwardNodes(findPlace(program, run, node)?.node ?? null).some(({ layer }) => layer.drag !== undefined);
  if (!isDragged) yield { type: 'let-go', where: 'elsewhere' };
}

/** What is done at a point of a layer, which the engine looks for. */
const isPointing = ({ type }: RunEvent): boolean => POINTING.has(type);

const POINTING: ReadonlySet<RunEvent['type']> = new Set(['click', 'hold', 'double-click', 'long-press', 'hover', 'swipe', 'drag']);

/** Whether a layer itself waits for any of these. */
const hears = ({ item }: Node, ...types: OccasionType[]): boolean => live(item.threads).some((cue) => types.some((type) => waitsFor(cue, type)));

/** Layers under the pointer of which it matters when it leaves, and what has the focus and of which it matters when it loses it. */
const heldOn = (shown: readonly Stood[], { over, focus }: Pick<RunState, 'over' | 'focus'>, { leaves }: Telling): string[] =>
  shown.flatMap(({ node }) => {
    const isLeft = over.includes(node.key) && leaves(node);
    return isLeft || (focus === node.key && (hears(node, 'blur') || showsByFocus(node))) ? [node.key] : [];
  });

/**
 * Whether something can be done with a layer at once: not while the pointer or the focus has to leave something first that waits for
 * that, which is tried by itself; nor is anything typed into a field that waits for the focus, or to lose it, before it has it.
 */
function isFree(event: RunEvent, node: Node, held: readonly string[], run: RunState): boolean {
  if (event.type === 'hover' || event.type === 'focus' || event.type === 'media') return true;
  if (held.length) {
    const around = outwardNodes(node).map(({ key }) => key);
    if (!held.every((key) => around.includes(key))) return false;
  }
  return event.type !== 'value' || !hears(node, 'focus', 'blur') || run.focus === node.key;
}

/** Whether anything can be done with a layer, or something in it waits for anything. */
const isAsked = (node: Node): boolean => {
  const { item, inside, layer } = node;
  return (
    item.threads.length > 0 ||
    inside !== null ||
    showsByHover(node) ||
    showsByFocus(node) ||
    !!(layer.field ?? layer.drag ?? layer.scroll) ||
    partFor(node) !== null
  );
};

/** The part that is pressed by pressing a layer in it, where its placement would itself take the press beside its layers, and nothing nearer does. */
function partFor(node: Node): SceneProgram | null {
  if (!node.catches) return null;
  for (const { inside, item } of outwardNodes(node)) {
    const takes = item.threads.some(answersPress);
    if (inside?.scene.threads.some(answersPress)) return takes ? inside.scene : null;
    if (takes) return null;
  }
  return null;
}

const answersPress = ({ enabled, cue }: Thread): boolean => enabled && POINTED.some((type) => waitsFor(cue, type));

const POINTED = ['click', 'press', 'release', 'double click', 'long press'] as const satisfies readonly OccasionType[];

const isButton = (value: Value): value is number => typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= 99;

/** What is to be tried of one kind for cues, each once. */
function tried<T extends Tried['type']>(cues: readonly Cue[], type: T): (Tried & { readonly type: T })[] {
  const all = cues.flatMap(triedFor).filter((one) => one.type === type);
  return [...new Map(all.map((one) => [JSON.stringify(one), one])).values()] as (Tried & { readonly type: T })[];
}

const CLICKS = HEARD.click;

type Grounded = 'click' | 'hold' | 'double-click' | 'long-press' | 'swipe';

/** What is pressed where no layer takes it goes to the scene, and on to the piece. */
function* onGround(program: Program, run: RunState, { scene, expansion }: Surface<Stood>): Iterable<RunEvent> {
  const cues = [...live(expansion.root.threads), ...live(program.threads)];
  const has = (deed: Grounded, types: readonly OccasionType[] = [HEARD[deed][0]]) =>
    cues.some((cue) => types.some((type) => waitsFor(cue, type))) && groundOf({ program, run }, scene, HEARD[deed]) !== null;
  const where = { layer: null, ...(scene !== run.frame && { scene }) };
  if (has('click', CLICKS)) yield { type: 'click', ...where };
  if (isGroundHeld(program, expansion.root) && has('hold', HEARD.hold)) yield { type: 'hold', ...where };
  if (has('double-click')) yield { type: 'double-click', ...where };
  if (has('long-press')) yield { type: 'long-press', ...where };
  if (has('swipe')) for (const swipe of tried(cues, 'swipe')) yield { ...swipe, ...where };
}

/** To where each cue for scrolling is met, to what waits for being seen, and to both ends; of the frame and of every group. */
function* scrolling(cues: readonly Cue[], screen: Screen<Stood>, shown: readonly Stood[]): Iterable<RunEvent> {
  const by = tried(cues, 'scroll').map((one) => one.by);
  const waiting = shown.filter(({ node }) => hears(node, 'in view'));
  if (by.length === 0 && waiting.length === 0) return;
  const front = screen.surfaces.findLast(({ kind }) => kind === 'laid' || kind === 'frame')!;
  const tops = waiting
    .filter(({ node }) => front.all.some((one) => one.node === node))
    .map((one) => Math.round(boundsOf(one).y - front.y + front.scroll.y));
  if ((front.expansion.root.scene.contentHeight ?? 0) > front.height)
    for (const y of new Set([0, ...by, ...tops, FAR])) yield { type: 'scroll', layer: null, x: 0, y };
  for (const { node } of shown)
    if (node.layer.scroll) {
      const steps = new Set([0, ...by, node.layer.pose.height, node.layer.pose.width, FAR]);
      for (const at of steps) yield { type: 'scroll', layer: node.key, x: at, y: at };
    }
}

const FAR = 1e6;

function* eventsOn(one: Stood, screen: Screen<Stood>, root: RootRun, telling: Telling): Iterable<RunEvent> {
  const { node } = one;
  const { key: layer } = node;
  const own = live(node.item.threads);
  const cues = [...live(threadsAt(node)), ...live(partFor(node)?.threads ?? [])];
  const { field, drag, media } = node.layer;
  const has = (...types: OccasionType[]) => cues.some((cue) => types.some((type) => waitsFor(cue, type)));
  const isBox = field?.kind === 'checkbox' || field?.kind === 'switch';
  if (has(...CLICKS) || isBox) yield { type: 'click', layer };
  if (isHeld(node)) yield { type: 'hold', layer };
  if (has('double click')) yield { type: 'double-click', layer };
  if (has('long press')) yield { type: 'long-press', layer };
  if (has('hover', 'leave') || showsByHover(node)) yield { type: 'hover', layer };
  if (has('focus') || telling.focuses(node)) yield { type: 'focus', layer };
  for (const swipe of tried(cues, 'swipe')) yield { ...swipe, layer };
  if (drag) yield* drags(one, own, screen, telling.placesOf(node.layer.id));
  if (field && !isBox) for (const value of telling.putInto(node.layer.id, field)) yield { type: 'value', layer, value };
  // Nobody can play it but the piece, and what goes round never ends.
  if (isMediaLayer(node.layer) && !media?.loop && tried(own, 'media').some(({ what }) => what === 'ended') && root.media[layer] === 'playing')
    yield { type: 'media', layer, what: 'ended' };
}

/** To every layer that waits for a drop, to every place it snaps to or that is asked about, and out of the way to both sides. */
function* drags(from: Stood, cues: readonly Cue[], screen: Screen<Stood>, asked: Places): Iterable<RunEvent> {
  const layer = from.node.key;
  const begin = centerOf(boundsOf(from));
  for (const cue of cues) {
    if (cue.type !== 'drop' || !cue.on) continue;
    const [target] = screen.surfaces.flatMap(({ all }) => all.find(({ node: { key } }) => key === cue.on || key.endsWith(`/${cue.on}`)) ?? []);
    if (!target) continue;
    const end = centerOf(boundsOf(target));
    yield { type: 'drag', layer, dx: end.x - begin.x, dy: end.y - begin.y };
  }
  const { bounds, snap } = from.node.layer.drag!;
  const { pose } = from.node.layer;
  const box = boundsOf(from);
  const across = awayIn(box.x - (from.x - pose.x), box.width, screen.width);
  const down = awayIn(box.y - (from.y - pose.y), box.height, screen.height);
  // Counted from where it began, so that dragging on and on leads to no place twice.
  const places = [
    ...(snap ?? []),
    { x: bounds?.right ?? across.on, y: bounds?.bottom ?? down.on },
    { x: bounds?.left ?? across.back, y: bounds?.top ?? down.back },
  ];
  for (const { x, y } of places) yield { type: 'drag', layer, dx: pose.x + x - from.x, dy: pose.y + y - from.y };
  if (!asked.x && !asked.y) return;
  for (const x of asked.x ?? [from.x]) for (const y of asked.y ?? [from.y]) yield { type: 'drag', layer, dx: x - from.x, dy: y - from.y };
}

/** How far something is dragged out of the way to both sides: who drags has it under the finger, so that some of it stays on the screen. */
function awayIn(at: number, size: number, room: number): { readonly on: number; readonly back: number } {
  const far = Math.max(AWAY, size);
  const left = Math.min(size, HELD);
  return { on: Math.max(0, Math.min(far, room - left - at)), back: Math.min(0, Math.max(-far, left - size - at)) };
}

/** In CSS px. */
const AWAY = 40;
