import { Beside, onceFor } from '../once.ts';
import { isLoose, isMediaLayer } from '../vocabulary/layers/all.ts';
import { propertyKinds } from '../vocabulary/properties/all.ts';
import { isPointed } from '../vocabulary/cues/all.ts';
import type { Delta, Timeline } from '../piece/schema.ts';
import { intersection } from '../program/geometry.ts';
import { keysOf } from '../motion/track.ts';
import { expand, type Expansion } from '../program/expand.ts';
import { outwardNodes, threadsAt, type Instance, type Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { liveRootsOf } from '../run/environment.ts';
import { marksOf, nextStop, sectionsOf, type Section } from '../run/playhead.ts';
import { holdsAll, reachOf } from '../run/reach.ts';
import { boundsOf, standingScreen, type Screen, type Stood } from '../run/resolve.ts';
import { begin } from '../run/run.ts';
import type { Playhead, RootRun, RunState } from '../run/state.ts';

/**
 * What keyframes move can be pressed on its way: a gull that flies across, a button that comes out from behind a card and goes back. A
 * playhead comes to rest at labels, edges and ends, and is looked at there; where something can be pressed at none of them but in between,
 * exploring stops there as well. Nothing happens at such a stop, so a piece does the same with it and without.
 */
export function withMidway(program: Program): Program {
  const midway = new Map<Timeline, readonly number[]>();
  let isCut = false;
  for (const frame of program.frames) {
    const here = midwayOn(program, frame);
    isCut ||= here.isCut;
    for (const { timeline, frames } of here.all) midway.set(timeline, [...new Set([...(midway.get(timeline) ?? []), ...frames])]);
  }
  if (midway.size === 0 && !isCut) return program;
  const all = (timeline: Timeline): Iterable<number> => [...marksOf(timeline), ...(midway.get(timeline) ?? [])];
  added.set(all, { midway, isCut });
  return { ...program, marksOf: all };
}

interface Added {
  readonly midway: ReadonlyMap<Timeline, readonly number[]>;
  readonly isCut: boolean;
}

const added = new Beside<NonNullable<Program['marksOf']>, Added>();

/** The timeline frames that are stopped at besides, by timelines. */
export const midwayOf = ({ marksOf: all }: Program) => all && added.get(all)?.midway;

/** Whether it was not looked for all that may be pressed on its way: there is too much of it. */
export const isMidwayCut = ({ marksOf: all }: Program): boolean => all !== undefined && added.get(all)?.isCut === true;

/** Whether playheads stop at the same in between in two programs. */
export function areMidwayAlike(a: Program, b: Program): boolean {
  const [one, other] = [a, b].map((program) => JSON.stringify([isMidwayCut(program), ...(midwayOf(program)?.values() ?? [])]));
  return one === other;
}

/** A run as exploring has it: its playheads stopped wherever they have come by. */
export function atMidway(program: Program, run: RunState): RunState {
  if (!midwayOf(program)) return run;
  const roots: Record<string, RootRun> = { ...run.roots };
  for (const scene of liveRootsOf(program, run)) {
    const root = run.roots[scene]!;
    const { instances } = expand(program, program.scenes.get(scene)!);
    const heads = Object.entries(root.heads).map(([key, head]) => {
      const timeline = key === '' || root.present[key] === true ? instances.get(key)?.scene.scene.timeline : undefined;
      return [key, timeline ? comeBy(program, head, timeline, run.clock) : head] as const;
    });
    if (heads.some(([key, head]) => head !== root.heads[key])) roots[scene] = { ...root, heads: Object.fromEntries(heads) };
  }
  return { ...run, roots };
}

function comeBy(program: Program, begun: Playhead, timeline: Timeline, clock: number): Playhead {
  let head = begun;
  for (;;) {
    const stop = nextStop(program, head, timeline);
    if (!stop || stop.isEnd || stop.due > clock + EPSILON || !midwayOf(program)!.get(timeline)?.includes(stop.frame)) return head;
    head = { ...head, at: stop.frame, since: stop.due };
  }
}

/** In milliseconds. */
const EPSILON = 1e-6;

interface Midway {
  readonly timeline: Timeline;
  readonly frames: readonly number[];
}

interface Found {
  readonly all: readonly Midway[];
  readonly isCut: boolean;
}

const NOTHING: Found = { all: [], isCut: false };

/** What was found on a frame, with the scenes on the screen as they were then. */
const known = new Beside<Expansion, { readonly of: readonly SceneProgram[]; readonly found: Found }>();

function midwayOn(program: Program, frame: string): Found {
  const scene = program.scenes.get(frame)!;
  const scenes = [scene, ...(scene.scene.carries ?? []).flatMap(({ sheet }) => program.scenes.get(sheet) ?? [])];
  const expansions = scenes.map((one) => expand(program, one));
  if (!expansions.some((one) => movingIn(one).length > 0)) return NOTHING;
  const of = [...scenes, ...expansions.flatMap(({ parts }) => parts)];
  const old = known.get(expansions[0]!);
  if (old && old.of.length === of.length && old.of.every((one, i) => one === of[i])) return old.found;
  return known.set(expansions[0]!, { of, found: foundOn(program, frame) }).found;
}

/** The instances of a scene whose timelines move anything that takes presses, or has that in it. */
const movingIn = onceFor((expansion: Expansion): readonly Instance[] =>
  [...expansion.instances.values()].filter(({ key, scene: { scene } }) => {
    const tracks = Object.values(scene.timeline?.tracks ?? {}).filter(({ property }) => propertyKinds[property].places);
    const paths = new Set(tracks.map(({ layer }) => (key === '' ? layer : `${key}/${layer}`)));
    return paths.size > 0 && expansion.nodes.some((node) => node.catches && outwardNodes(node).some((one) => paths.has(one.key)));
  })
);

/** What is pressed, hovered, dragged or swiped, or can have something put in. */
const pressedIn = onceFor(({ nodes }: Expansion): readonly Node[] =>
  nodes.filter(
    (node) =>
      !isMediaLayer(node.layer) && (threadsAt(node).some(({ enabled, cue }) => enabled && isPointed(cue)) || node.layer.field || node.layer.drag)
  )
);

function foundOn(program: Program, frame: string): Found {
  const begun = begin(program, frame)?.run;
  if (!begun) return NOTHING;
  const found = new Map<Timeline, Set<number>>();
  const looks = { left: MOST_LOOKS };
  for (const scene of liveRootsOf(program, begun)) {
    const expansion = expand(program, program.scenes.get(scene)!);
    for (const instance of movingIn(expansion))
      for (const run of lookedAt(begun, expansion, instance)) {
        const timeline = instance.scene.scene.timeline!;
        const frames = found.get(timeline) ?? found.set(timeline, new Set<number>()).get(timeline)!;
        for (const section of sectionsOf(timeline)) for (const at of betweenIn({ program, run, scene, instance, looks }, section)) frames.add(at);
      }
  }
  const all = Array.from(found, ([timeline, frames]) => ({ timeline, frames: [...frames].sort((a, b) => a - b) }));
  return { all: all.filter(({ frames }) => frames.length > 0), isCut: looks.left < 0 };
}

/** The ways in which a scene is looked at: as it begins, in each state of its own and of what moves, and with what is pressed shown that is hidden. */
function* lookedAt(begun: RunState, expansion: Expansion, instance: Instance): Iterable<RunState> {
  const { scene } = expansion.root;
  const root = begun.roots[scene.id]!;
  const having = (change: Partial<RootRun>): RunState => ({ ...begun, roots: { ...begun.roots, [scene.id]: { ...root, ...change } } });
  yield begun;
  const states = [...new Set(['', instance.key])].flatMap((key) => {
    const of = Object.entries((key === '' ? scene.states : instance.scene.scene.states) ?? {});
    const moving = of.filter(([, { deltas }]) => Object.values(deltas).some(isElsewhere));
    return moving.map(([state]) => ({ ...root.states, [key]: state }));
  });
  for (const one of states.slice(0, MOST_STATES)) yield having({ states: one });
  const hidden = new Set(pressedIn(expansion).flatMap((node) => outwardNodes(node).filter(({ layer }) => layer.hidden)));
  if (hidden.size === 0) return;
  const shown = Array.from(hidden, ({ key }) => [`${key}.shown`, true] as const);
  yield having({ flags: { ...root.flags, ...Object.fromEntries(shown) } });
}

/** Whether a change by a state says where something is, or whether it is there. */
const isElsewhere = ({ pose, hidden, state }: Delta): boolean => pose !== undefined || hidden !== undefined || state !== undefined;

interface Moving {
  readonly program: Program;
  readonly run: RunState;
  readonly scene: string;
  readonly instance: Instance;
  /** So often it is still looked point by point whether something can be pressed. */
  readonly looks: { left: number };
}

/** Where in a section something can be pressed that cannot be where its playhead stops. */
function betweenIn(moving: Moving, section: Section): readonly number[] {
  const { program, run, looks } = moving;
  const timeline = moving.instance.scene.scene.timeline!;
  const isOpenAt = (frame: number) => {
    const then = { program, run: standingAt(moving, frame) };
    const screen = standingScreen(program, then.run);
    return (node: Node) => !isShut(screen, node) && looks.left-- > 0 && 'point' in reachOf(then, node);
  };
  let shut = liveRootsOf(program, run).flatMap((scene) => pressedIn(expand(program, program.scenes.get(scene)!)));
  for (const rest of restsIn(timeline, section)) {
    const isOpen = isOpenAt(rest);
    shut = shut.filter((node) => !isOpen(node));
  }
  if (shut.length === 0) return NONE;
  const samples = samplesIn(timeline, section).map((frame) => ({ frame, isOpen: isOpenAt(frame) }));
  const found: number[] = [];
  for (const node of shut) {
    const open = samples.map(({ isOpen }) => isOpen(node));
    if (open.includes(true) && !samples.some(({ frame }, i) => open[i] && found.includes(frame))) found.push(samples[middleOfLongest(open)]!.frame);
  }
  return found;
}

/** Whether something is out of view, or one thing alone lies over all of it that is in view. */
function isShut(screen: Screen<Stood>, node: Node): boolean {
  const at = screen.surfaces.findIndex(({ all }) => all.some((one) => one.node === node));
  const shown = screen.surfaces[at]?.all.find((one) => one.node === node);
  const seen = shown && intersection(boundsOf(shown), { x: 0, y: 0, width: screen.width, height: screen.height });
  if (!seen) return true;
  if (!node.catches) return false;
  const isOver = (one: Stood) => one.node.catches && !isLoose(one.node.layer) && !outwardNodes(one.node).includes(node) && holdsAll(one, seen);
  return screen.surfaces.slice(at).some(({ all }, i) => all.some((one) => (i > 0 || one.node.at > node.at) && isOver(one)));
}

/** Where a playhead stops in a section without more ado. */
function restsIn(timeline: Timeline, { from, to, ending }: Section): readonly number[] {
  const marks = [...marksOf(timeline)].filter((mark) => mark > from && mark <= to);
  const isHeld = ending.do === 'hold' || (ending.do === 'loop' && ending.times !== undefined);
  return [from, ...marks, ...(isHeld ? [to] : [])];
}

/** A run in which one playhead stands somewhere. */
function standingAt({ run, scene, instance }: Moving, at: number): RunState {
  const root = run.roots[scene]!;
  const head: Playhead = { at, since: run.clock, playing: false, visits: 1 };
  return { ...run, roots: { ...run.roots, [scene]: { ...root, heads: { ...root.heads, [instance.key]: head } } } };
}

/** Timeline frames of a section that are looked at: all of a short one, of a long one so many, and where keys are. */
function samplesIn(timeline: Timeline, { from, to }: Section): readonly number[] {
  const step = Math.max(1, (to - from) / MOST_SAMPLES);
  const even = Array.from({ length: Math.floor((to - from) / step) }, (_, i) => Math.round(from + (i + 1) * step));
  const keys = Object.values(timeline.tracks ?? {}).flatMap((track) => keysOf(track).map(({ time }) => time));
  const inside = [...even, ...keys.filter((time) => time > from && time <= to).slice(0, MOST_SAMPLES)];
  return [...new Set(inside)].sort((a, b) => a - b);
}

/** The middle of the longest row of what is so. */
function middleOfLongest(all: readonly boolean[]): number {
  let best = { from: 0, length: 0 };
  let from = 0;
  all.forEach((is, i) => {
    if (!is) from = i + 1;
    else if (i + 1 - from > best.length) best = { from, length: i + 1 - from };
  });
  return best.from + Math.floor((best.length - 1) / 2);
}

const MOST_SAMPLES = 48;

/** So often it is looked point by point on one frame. */
const MOST_LOOKS = 2000;

/** So many states of a scene are looked at. */
const MOST_STATES = 12;

const NONE: readonly never[] = [];
