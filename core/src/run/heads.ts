import { isMediaLayer } from '../vocabulary/layers/all.ts';
import type { Timeline } from '../piece/schema.ts';
import type { Expansion } from '../program/expand.ts';
import type { Instance, Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { shownWithin } from './environment.ts';
import { frameAt, nextStop, sectionAt, spanOf, type Stop } from './playhead.ts';
import type { Runner } from './runner.ts';
import type { Activity, Playhead, RootRun, RunState } from './state.ts';

/** Playheads as a run moves them: starting, stopping, arriving at labels, and what a section's ending says. */

export function enterHeads(runner: Runner, scene: string, expansion: Expansion): void {
  const root = runner.root(scene)!;
  const instance = expansion.instances.get('')!;
  const { timeline } = instance.scene.scene;
  const kept = root.heads[''];
  if (timeline) {
    const head: Playhead = kept
      ? { ...kept, since: runner.run.clock }
      : { at: 0, since: runner.run.clock, playing: timeline.autoplay !== false, visits: 1 };
    setHead(runner, scene, instance, head);
    if (!kept) arrive(runner, scene, instance, 0);
  }
  syncPresence(runner, scene);
}

/** Heads as they are kept while their scene is away: where they were, to go on from there. */
export const restingHeads = (runner: Runner, { scene, heads }: RootRun): RootRun['heads'] => {
  const { instances } = runner.expansion(scene);
  return Object.fromEntries(Object.entries(heads).map(([key, head]) => [key, stopped(runner, head, instances.get(key)?.scene.scene.timeline)]));
};

/** A head that is stopped where it is. */
const stopped = ({ program, run: { clock } }: Runner, head: Playhead, timeline: Timeline | undefined): Playhead => ({
  ...head,
  at: standsAt(program, head, timeline, clock),
  since: clock,
});

/** Where a playhead stands that is stopped at a moment: within its section, though that is over just then. */
const standsAt = (program: Program, head: Playhead, timeline: Timeline | undefined, clock: number): number =>
  Math.min(frameAt(program, head, clock), (timeline && sectionAt(timeline, head.at)?.to) ?? Infinity);

const setHead = (runner: Runner, scene: string, instance: Instance, head: Playhead): void => runner.store.set(scene, 'heads', instance.key, head);

/** Placements and media that came into view begin, those that went out of it stop. */
export function syncPresence(runner: Runner, scene: string): void {
  const { timed } = runner.expansion(scene);
  for (const node of timed) {
    const root = runner.root(scene);
    if (!root) return;
    const isThere = shownWithin(runner.program, runner.run, root, node);
    if ((root.present[node.key] ?? false) === isThere) continue;
    runner.store.set(scene, 'present', node.key, isThere);
    if (node.inside) (isThere ? comeIn : goOut)(runner, scene, node, node.inside);
    else if (isThere && node.layer.media?.autoplay) playMedia(runner, scene, node);
    else if (!isThere && runner.root(scene)!.media[node.key] === 'playing') pauseMedia(runner, scene, node);
  }
}

function comeIn(runner: Runner, scene: string, node: Node, instance: Instance): void {
  const timeline = instance.scene.scene.timeline!;
  const old = runner.root(scene)!.heads[instance.key];
  const { clock } = runner.run;
  const visits = (old?.visits ?? 0) + 1;
  const reentry = node.layer.reentry ?? 'start over';
  if (old && reentry === 'go on') return setHead(runner, scene, instance, { ...old, since: clock, visits });
  if (old && reentry === 'once') return setHead(runner, scene, instance, { at: timeline.length - 1, since: clock, playing: false, visits });
  setHead(runner, scene, instance, { at: 0, since: clock, playing: timeline.autoplay !== false, visits });
  arrive(runner, scene, instance, 0);
}

/** Keeps the place; whether it played is kept as well, for a placement that goes on. */
function goOut(runner: Runner, scene: string, _node: Node, instance: Instance): void {
  const head = runner.root(scene)!.heads[instance.key];
  if (head) setHead(runner, scene, instance, stopped(runner, head, instance.scene.scene.timeline));
}

export function playMedia(runner: Runner, scene: string, node: Node): void {
  if (!runner.root(scene)) return;
  runner.store.set(scene, 'media', node.key, 'playing');
  runner.effect({ type: 'media', node: node.key, do: 'play' });
  runner.nodeCue(scene, node, { type: 'media', what: 'started' }, `${node.layer.name} started`);
}

export function pauseMedia(runner: Runner, scene: string, node: Node): void {
  if (!runner.root(scene)) return;
  runner.store.set(scene, 'media', node.key, 'paused');
  runner.effect({ type: 'media', node: node.key, do: 'pause' });
}

/** What a head at a timeline frame sets off: labels reached, cues on the timeline, and a new section. */
function arrive(runner: Runner, scene: string, instance: Instance, frame: number): void {
  const timeline = instance.scene.scene.timeline!;
  for (const [id, label] of Object.entries(timeline.labels ?? {})) if (label.time === frame) labelReached(runner, scene, instance, id, label.name);
  for (const cue of Object.values(timeline.cues ?? {})) if (cue.time === frame) timelineCue(runner, scene, instance, cue);
  runner.reread(`${instance.key || scene}.section`);
}

function labelReached(runner: Runner, scene: string, instance: Instance, label: string, name: string): void {
  const calls = runner.callsIn(scene, runner.expansion(scene), { type: 'label', label }).filter((call) => call.instance === instance);
  if (calls.length) runner.happen(`reached ${name}`, () => calls);
}

function timelineCue(
  runner: Runner,
  scene: string,
  instance: Instance,
  cue: { readonly layer: string; readonly do: 'play' | 'pause' | 'start over' }
): void {
  const place = runner.find(instance.key ? `${instance.key}/${cue.layer}` : cue.layer);
  if (!place?.node) return;
  if (cue.do === 'pause') pause(runner, scene, place.node);
  else play(runner, scene, place.node, cue.do === 'start over' ? 'start' : 'here');
}

/** All the instances and media that a timeline step on a layer means: itself, or all in a group. */
export function* playable(node: Node): Iterable<Node> {
  if (node.inside || isMediaLayer(node.layer)) yield node;
  else for (const child of node.children) yield* playable(child);
}

/** Plays a placement, media, or all in a group: from where it is, or from its beginning. */
export function play(runner: Runner, scene: string, node: Node, from: 'here' | 'start'): Instance | null {
  let played: Instance | null = null;
  for (const one of playable(node)) {
    if (one.inside) {
      playInstance(runner, scene, one.inside, from === 'start' ? 0 : null);
      played = one.inside;
    } else {
      if (from === 'start') runner.effect({ type: 'media', node: one.key, do: 'rewind' });
      playMedia(runner, scene, one);
    }
  }
  return played;
}

export function pause(runner: Runner, scene: string, node: Node): void {
  for (const one of playable(node)) {
    if (one.inside) pauseInstance(runner, scene, one.inside);
    else pauseMedia(runner, scene, one);
  }
}

/** Plays an instance's timeline from a timeline frame; null goes on from where it is, past a section that holds. */
export function playInstance(runner: Runner, scene: string, instance: Instance, from: number | null): boolean {
  const { timeline } = instance.scene.scene;
  if (!timeline) return false;
  const { clock } = runner.run;
  const head = runner.root(scene)?.heads[instance.key];
  if (from === null && head?.playing) return true;
  // One that stands is where it stands: how long ago it came there is not asked.
  const now = head?.at ?? 0;
  const section = sectionAt(timeline, now);
  // At the last frame of a loop without end it only paused.
  const held = head && section?.to === now && (section.ending.do !== 'loop' || section.ending.times);
  const at = from ?? (held ? (now + 1) % timeline.length : now);
  setHead(runner, scene, instance, { at, since: clock, playing: true, visits: head?.visits ?? 1 });
  if (from !== null || at !== now || !head) arrive(runner, scene, instance, at);
  return true;
}

export function showFrame(runner: Runner, scene: string, instance: Instance, frame: number): void {
  const head = runner.root(scene)?.heads[instance.key];
  setHead(runner, scene, instance, { at: frame, since: runner.run.clock, playing: false, visits: head?.visits ?? 1 });
  arrive(runner, scene, instance, frame);
}

export function pauseInstance(runner: Runner, scene: string, instance: Instance): void {
  const head = runner.root(scene)?.heads[instance.key];
  if (head?.playing) setHead(runner, scene, instance, { ...stopped(runner, head, instance.scene.scene.timeline), playing: false });
}

/** Whether a head is under way: only those that are there move on. */
export function* movingHeads(
  runner: { readonly program: Program; readonly run: RunState; readonly expansion: (scene: string) => Expansion },
  scene: string
): Iterable<{ instance: Instance; head: Playhead }> {
  const root = runner.run.roots[scene];
  if (!root) return;
  for (const key in root.heads) {
    const head = root.heads[key]!;
    if (!head.playing || (key !== '' && root.present[key] !== true)) continue;
    const instance = runner.expansion(scene).instances.get(key);
    if (instance?.scene.scene.timeline) yield { instance, head };
  }
}

/** Brings a head to its next stop: a mark on the way, or the end of its section with what its ending says. */
export function reachStop(runner: Runner, scene: string, instance: Instance, head: Playhead, stop: Stop & { readonly due: number }): void {
  const timeline = instance.scene.scene.timeline!;
  const { rounds = 0, ...plain } = head;
  const move = (at: number, kept = 0, playing = true) => {
    setHead(runner, scene, instance, { ...plain, at, since: stop.due, playing, ...(kept && { rounds: kept }) });
    if (playing) arrive(runner, scene, instance, at);
  };
  if (!stop.isEnd) return move(stop.frame, rounds);
  const section = sectionAt(timeline, head.at);
  const last = section?.to ?? timeline.length - 1;
  const ending = section?.ending ?? { do: 'hold' as const };
  const to = ending.do === 'go to' && timeline.labels?.[ending.label ?? ''];
  if (ending.do === 'loop' && rounds + 1 < (ending.times ?? Infinity)) move(section!.from, ending.times && rounds + 1);
  else if (to) move(Math.min(to.time, timeline.length - 1));
  else if (ending.do === 'go on' && (last + 1 < timeline.length || timeline.loop)) move((last + 1) % timeline.length);
  else move(last, 0, false);
  sectionEnded(runner, scene, instance);
}

function sectionEnded(runner: Runner, scene: string, instance: Instance): void {
  const isAwaiting = awaiting(scene, instance);
  if (!runner.store.isSo(({ activities }) => activities.some(isAwaiting))) return;
  const { clock } = runner.run;
  runner.put({ activities: runner.run.activities.map((activity) => (isAwaiting(activity) ? { ...activity, head: null, due: clock } : activity)) });
}

/** Tells whether steps wait for a playhead to end its section. */
export const awaiting =
  (scene: string, { key }: Instance) =>
  ({ head }: Activity): boolean =>
    head?.root === scene && head.instance === key;

/** How long a section takes from a frame on, for those who wait for it. */
export const timeLeft = (program: Program, head: Playhead, instance: Instance): number => {
  const stop = nextStop(program, head, instance.scene.scene.timeline!);
  return stop ? spanOf(program, stop.frame - head.at) : 0;
};
