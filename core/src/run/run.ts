import type { Thread } from '../piece/piece.ts';
import { fitsOccasion } from '../vocabulary/cues/all.ts';
import type { Occasion } from '../vocabulary/occasions.ts';
import { expand } from '../program/expand.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import { startFrame, type Program } from '../program/program.ts';
import { enabledWithin, standingScreen } from './resolve.ts';
import { variableKey } from '../program/binding.ts';
import { movingHeads, reachStop } from './heads.ts';
import { nextStop } from './playhead.ts';
import { fireOutward, leavePointer, longPress, longPressDue, movePointer, pressPointer, releasePointer } from './pointer.ts';
import { runnerFor } from './machine.ts';
import type { Call, Runner } from './runner.ts';
import { emptyRun } from './environment.ts';
import { alone, clickOn, onLayer } from './by-name.ts';
import { takeDeed } from './deeds.ts';
import { CLICKED } from './heard.ts';
import { reachOf, scrollInto } from './reach.ts';
import { scrollTo } from './scrolling.ts';
import { enterFrame } from './frames.ts';
import type { Advanced, Activity, Report, RunEvent, RunState, Timer } from './state.ts';
import { whyDisabled, whyNoKey } from './why.ts';

/** A run at its beginning, on a frame (the start frame if none is named); null where the piece has no frame. */
export function start(program: Program, frame: string | null = startFrame(program)): RunState | null {
  return begin(program, frame)?.run ?? null;
}

/** The same, with what happened on the way in: threads that fire as the frame is entered. */
export function begin(program: Program, frame: string | null = startFrame(program)): Advanced | null {
  if (frame === null || !program.scenes.has(frame)) return null;
  const runner = runnerFor(program, emptyRun(frame));
  for (const { sheet } of program.scenes.get(frame)!.scene.carries ?? []) runner.enterRoot(sheet);
  runner.enterRoot(frame);
  return runner.finish();
}

/**
 * Takes one event and runs all that follows from it to the end. Pure and deterministic. What follows inside the piece (a state
 * entered, a variable changed, a timer) gives reports of its own, in the order it happened.
 */
export function advance(program: Program, run: RunState, event: RunEvent): Advanced {
  if (!program.scenes.has(run.frame)) return lostFrame(program, run, event);
  return advanceIn(runnerFor(program, run, event), event);
}

/** The same by a runner that stands before the event. */
export function advanceIn(runner: Runner, event: RunEvent): Advanced {
  if (event.type === 'wait') return wait(runner, event.ms);
  takeEvent(runner, event);
  runner.settle();
  return runner.finish();
}

/** All events in order, with every report. */
export function replay(program: Program, run: RunState, events: readonly RunEvent[]): Advanced {
  let at = run;
  const reports: Report[] = [];
  for (const event of events) {
    const next = advance(program, at, event);
    at = next.run;
    reports.push(...next.reports);
  }
  return { run: at, reports };
}

function takeEvent(runner: Runner, event: Exclude<RunEvent, { type: 'wait' }>): void {
  switch (event.type) {
    case 'move':
      return movePointer(runner, { x: event.x, y: event.y });
    case 'leave':
      return leavePointer(runner);
    case 'press':
      return pressPointer(runner, { x: event.x, y: event.y });
    case 'release':
      return releasePointer(runner, { x: event.x, y: event.y });
    case 'click': {
      const { layer } = event;
      if (layer === null) return takeDeed(runner, event);
      alone(runner);
      return onLayer(runner, layer, CLICKED, (node, point) => clickOn(runner, node, runner.sceneOfNode(node.key)!, point));
    }
    case 'scroll':
      return scroll(runner, event);
    case 'key':
      return pressKey(runner, event.key);
    case 'focus':
      if (event.layer !== null && runner.run.focus === event.layer) moveFocus(runner, null);
      return moveFocus(runner, event.layer);
    case 'value':
      return enterValue(runner, event.layer, event.value);
    case 'media':
      return media(runner, event);
    case 'pad':
      return pressPad(runner, event.button);
    case 'signal':
      return runner.fire(runner.callsEverywhere(event));
    case 'set':
      return setFromOutside(runner, event);
    case 'jump':
      return jump(runner, event.frame);
    default:
      return takeDeed(runner, event);
  }
}

function scroll(runner: Runner, event: Extract<RunEvent, { type: 'scroll' }>): void {
  if (event.layer === null) return scrollTo(runner, runner.run.overlays.at(-1)?.frame ?? runner.run.frame, '', event.x, event.y);
  const place = runner.find(event.layer);
  if (place?.node?.layer.scroll && place.isOn) scrollTo(runner, place.root.scene, place.node.key, event.x, event.y);
  else runner.why({ code: 'no-scroll', sentence: 'There is nothing to scroll here.', layer: event.layer });
}

// ── events without a place ───────────────────────────────────────────────────

/** Scenes that keys and pad buttons are told to, the front one first. A frame that keeps presses off what lies below keeps keys off it too. */
function frontScenes(runner: Runner): string[] {
  const scenes = runner.liveRoots().reverse();
  const modal = runner.run.overlays.findLast((overlay) => overlay.scrim !== null || overlay.closes);
  return modal ? scenes.slice(0, scenes.indexOf(modal.frame) + 1) : scenes;
}

/** The layer with the focus and what is around it, where nothing keeps that off, then the frontmost layer, then the scenes, then the piece. */
function fireFront(runner: Runner, occasion: Occasion): boolean {
  const scenes = frontScenes(runner);
  const place = runner.find(runner.run.focus ?? '');
  const focused = place && scenes.includes(place.root.scene) ? place.node : null;
  const matches = (threads: readonly Thread[]) => threads.some((thread) => thread.enabled && fitsOccasion(thread.cue, occasion));
  const isFor = (one: Node) => matches(one.item.threads);
  const node = outwardNodes(focused).find(isFor) ?? scenes.flatMap((scene) => frontmost(runner, scene, isFor) ?? [])[0];
  if (node) return fireOutward(runner, node, null, occasion);
  for (const scene of scenes) {
    const placed = [...runner.expansion(scene).instances.values()].slice(1).find((instance) => matches(instance.scene.threads));
    if (placed) return fireOutward(runner, placed.placement, scene, occasion);
    if (matches(runner.program.scenes.get(scene)!.threads)) return fireOutward(runner, null, scene, occasion);
  }
  return fireOutward(runner, null, null, occasion);
}

function frontmost(runner: Runner, scene: string, isFor: (node: Node) => boolean): Node | undefined {
  if (!runner.expansion(scene).nodes.some(isFor)) return undefined;
  const surface = standingScreen(runner.program, runner.run).surfaces.find((one) => one.scene === scene);
  return surface?.all.findLast(({ node }) => isFor(node))?.node;
}

function pressKey(runner: Runner, key: string): void {
  if (!fireFront(runner, { type: 'key', key })) whyNoKey(runner, key);
}

function pressPad(runner: Runner, button: number): void {
  runner.put({ pad: button });
  // Which button it is belongs to what happened: conditions know it.
  runner.before = runner.run;
  runner.reread('pad.button');
  if (!fireFront(runner, { type: 'pad', button })) runner.why({ code: 'no-thread', sentence: `No thread here waits for pad button ${button}.` });
}

function moveFocus(runner: Runner, layer: string | null): void {
  const old = runner.run.focus;
  if (old === layer) return;
  const gone = runner.find(old ?? '');
  runner.put({ focus: layer });
  if (gone?.node && gone.isOn) runner.nodeCue(gone.root.scene, gone.node, { type: 'blur' }, `${gone.node.layer.name} lost the focus`);
  const come = runner.find(layer ?? '');
  if (!come?.node || !come.isOn) return;
  // The keyboard comes to things that have to be scrolled to, and they into view.
  if (!('point' in reachOf(runner, come.node))) scrollInto(runner, come.node);
  runner.nodeCue(come.root.scene, come.node, { type: 'focus' }, `${come.node.layer.name} has the focus`);
}

function enterValue(runner: Runner, layer: string, value: string | number | boolean): void {
  const place = runner.find(layer);
  runner.at(layer);
  if (!place?.node?.layer.field || !place.isOn) return runner.why({ code: 'not-here', sentence: 'There is no such field on the screen.', layer });
  if (!enabledWithin(place.root, place.node)) return runner.why(whyDisabled(runner, place.node));
  runner.setField({ ...place, node: place.node }, value);
}

function media(runner: Runner, { layer, what }: Extract<RunEvent, { type: 'media' }>): void {
  const place = runner.find(layer);
  if (!place?.node || !place.isOn) return;
  const { root, node } = place;
  const state = what === 'started' ? 'playing' : 'paused';
  if (what === 'ended' || root.media[node.key] !== state) runner.store.set(root.scene, 'media', node.key, state);
  runner.at(node.key);
  runner.nodeCue(root.scene, node, { type: 'media', what }, `${node.layer.name} ${what}`);
}

function setFromOutside(runner: Runner, { variable, value }: Extract<RunEvent, { type: 'set' }>): void {
  const frame = runner.program.scenes.get(runner.run.frame)!;
  const instance = expand(runner.program, frame).instances.get('')!;
  const problem = runner.setVariable(variable, variableKey(runner.program, instance, variable), value);
  if (problem) runner.why({ code: 'wrong-value', sentence: problem });
}

function jump(runner: Runner, frame: string): void {
  if (!runner.program.frameAt.has(frame)) return;
  runner.effect({ type: 'go', from: runner.run.frame, to: frame, transition: { type: 'cut' }, thread: '' });
  enterFrame(runner, frame);
}

/** The frame was deleted under a running piece: it goes on from the start. */
function lostFrame(program: Program, run: RunState, event: RunEvent): Advanced {
  const home = start(program);
  if (!home) return { run, reports: [] };
  const moved: RunState = { ...home, clock: run.clock, variables: run.variables, count: run.count };
  return advance(program, moved, event);
}

// ── time ─────────────────────────────────────────────────────────────────────

export type Deadline =
  | { readonly kind: 'timer'; readonly at: number; readonly scene: string; readonly timer: Timer }
  | { readonly kind: 'steps'; readonly at: number; readonly activity: Activity }
  | { readonly kind: 'head'; readonly at: number; readonly scene: string; readonly instance: string }
  | { readonly kind: 'long press'; readonly at: number; readonly node: Node | null; readonly scene: string };

/** In milliseconds: what adding up makes of times is no difference. */
const ONE_MOMENT = 1e-6;

/** What happens next by itself: timers first where times are equal, in the order of the document, then steps, then playheads. */
function nextOf(runner: Runner): Deadline | null {
  let best: Deadline | null = null;
  const take = (deadline: Deadline) => {
    if (!best || deadline.at < best.at - ONE_MOMENT) best = deadline;
  };
  const scenes = runner.liveRoots();
  for (const scene of scenes) for (const timer of runner.root(scene)?.timers ?? []) take({ kind: 'timer', at: timer.due, scene, timer });
  for (const activity of runner.run.activities) if (activity.head === null) take({ kind: 'steps', at: activity.due, activity });
  for (const scene of scenes)
    for (const { instance, head } of movingHeads(runner, scene)) {
      const stop = nextStop(runner.program, head, instance.scene.scene.timeline!);
      if (stop) take({ kind: 'head', at: stop.due, scene, instance: instance.key });
    }
  const held = longPressDue(runner);
  if (held) take({ kind: 'long press', ...held });
  return best;
}

/** When something next happens by itself, by the run's clock; null where nothing does. */
export function nextDeadline(program: Program, run: RunState): number | null {
  if (!program.scenes.has(run.frame)) return null;
  return nextOf(runnerFor(program, run))?.at ?? null;
}

/** Whether a timeline is moving, so that the screen is another one with every timeline frame. */
export function isPlaying(program: Program, run: RunState): boolean {
  if (!program.scenes.has(run.frame)) return false;
  const runner = runnerFor(program, run);
  return runner.liveRoots().some((scene) => !movingHeads(runner, scene)[Symbol.iterator]().next().done);
}

/** A piece that sets itself off every millisecond would run a day's wait away: after this many it waits no longer for anything. */
const MOST_DEADLINES = 5000;

/** Lets time pass, stopping at every deadline on the way. */
function wait(runner: Runner, ms: number): Advanced {
  const end = runner.run.clock + Math.max(0, ms);
  const reports: Report[] = [];
  let run = runner.run;
  for (let i = 0; i < MOST_DEADLINES; i++) {
    const looking = runner.beside(run);
    const due = nextOf(looking);
    if (!due || due.at > end + ONE_MOMENT) break;
    const before = run.clock;
    const clock = Math.max(run.clock, due.at);
    const one = runner.beside(run, { type: 'wait', ms: clock - before });
    one.put({ clock });
    const done = meetIn(one, due);
    run = done.run;
    reports.push(...done.reports);
  }
  const last = runner.beside(run);
  last.put({ clock: Math.max(end, run.clock) });
  return { run: last.run, reports };
}

/** What comes of one thing that is due, by a runner that stands at that moment, whatever else waits. */
export function meetIn(runner: Runner, due: Deadline): Advanced {
  meet(runner, due);
  runner.settle();
  return runner.finish();
}

function meet(runner: Runner, due: Deadline): void {
  if (due.kind === 'steps') return runner.resume(due.activity);
  if (due.kind === 'long press') return longPress(runner, due.node, due.scene);
  if (due.kind === 'head') {
    const instance = runner.expansion(due.scene).instances.get(due.instance)!;
    const head = runner.root(due.scene)!.heads[due.instance]!;
    return reachStop(runner, due.scene, instance, head, nextStop(runner.program, head, instance.scene.scene.timeline!)!);
  }
  const { scene, timer } = due;
  const root = runner.root(scene)!;
  runner.setRoot(scene, { timers: root.timers.filter((one) => one !== timer) });
  const call = timerCall(runner, scene, timer);
  if (!call) return;
  runner.at(call.node?.key ?? null);
  runner.fire([call]);
}

const timerCall = (runner: Runner, scene: string, timer: Timer): Call | undefined =>
  runner
    .callsIn(scene, runner.expansion(scene), { type: 'time', state: timer.state })
    .find((call) => call.thread.id === timer.thread && call.instance.key === timer.instance);
