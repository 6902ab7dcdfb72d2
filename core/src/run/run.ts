import type { Thread } from '../piece/piece.ts';
import type { Point } from '../program/geometry.ts';
import { catcherAt, outward, reachOf } from '../program/hit.ts';
import { startFrame, type Item, type Program, type SceneProgram } from '../program/program.ts';
import { enter, runStep } from './steps.ts';
import type { Advanced, Effect, Fired, Report, RunEvent, RunState, WhyNot } from './state.ts';
import { timersOf } from './timers.ts';
import { whyNoClick, whyNoKey } from './why.ts';

/** A run at its beginning, on a frame (the start frame if none is named); null where the piece has no frame. */
export function start(program: Program, frame: string | null = startFrame(program)): RunState | null {
  if (frame === null || !program.scenes.has(frame)) return null;
  return { frame, back: [], clock: 0, entered: 0, timersFired: 0, pointer: null, over: [], pressed: null };
}

/**
 * Takes one event and runs all that follows from it to the end. Pure and deterministic. One event gives one report;
 * a wait gives one for each timer that fires in it.
 */
export function advance(program: Program, run: RunState, event: RunEvent): Advanced {
  const scene = program.scenes.get(run.frame);
  if (!scene) return lostFrame(program, run, event);
  switch (event.type) {
    case 'move':
      return movePointer(program, scene, run, event);
    case 'leave':
      return quiet({ ...run, pointer: null, over: [], pressed: null });
    case 'press':
      return press(scene, run, event);
    case 'release':
      return release(program, scene, run, event);
    case 'click':
      return clickLayer(program, scene, run, event);
    case 'hover':
      return hoverLayer(program, scene, run, event);
    case 'key':
      return pressKey(program, scene, run, event);
    case 'wait':
      return wait(program, run, event.ms);
    case 'jump':
      return jump(program, run, event);
  }
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

const quiet = (run: RunState): Advanced => ({ run, reports: [] });

const idsOf = (items: readonly Item[]) => items.map((item) => item.layer.id);

function movePointer(program: Program, scene: SceneProgram, run: RunState, event: RunEvent & { type: 'move' }): Advanced {
  const pointer = { x: event.x, y: event.y };
  const chain = outward(catcherAt(scene, pointer));
  const moved = { ...run, pointer, over: idsOf(chain) };
  const entered = chain.filter((item) => !run.over.includes(item.layer.id));
  const taken = entered.map((item) => ({ item, threads: cued(item.threads, 'hover') })).find(({ threads }) => threads.length > 0);
  return taken ? fire(program, moved, event, taken.item.layer.id, taken.threads) : quiet(moved);
}

function press(scene: SceneProgram, run: RunState, event: RunEvent & { type: 'press' }): Advanced {
  const pointer = { x: event.x, y: event.y };
  const chain = outward(catcherAt(scene, pointer));
  return quiet({ ...run, pointer, over: idsOf(chain), pressed: chain[0]?.layer.id ?? '' });
}

function release(program: Program, scene: SceneProgram, run: RunState, event: RunEvent & { type: 'release' }): Advanced {
  const pointer = { x: event.x, y: event.y };
  const catcher = catcherAt(scene, pointer);
  const let_go = { ...run, pointer, over: idsOf(outward(catcher)), pressed: null };
  if (run.pressed === null) return quiet(let_go);
  const pressedItem = run.pressed === '' ? null : (scene.byId.get(run.pressed) ?? null);
  if ((catcher?.layer.id ?? '') !== run.pressed) {
    const name = pressedItem?.layer.name ?? 'the frame';
    const why: WhyNot = { code: 'let-go-elsewhere', sentence: `The press began on ${name} and ended elsewhere, so it is no click.` };
    return { run: let_go, reports: [report(run, event, run.pressed || null, [], [why], [])] };
  }
  return click(program, scene, let_go, event, catcher, pointer);
}

/** A click that was made: the receiver first, then outward until a thread takes it. */
function click(program: Program, scene: SceneProgram, run: RunState, event: RunEvent, catcher: Item | null, point: Point): Advanced {
  const receiver = receiverOf(program, scene, catcher, 'click');
  if (receiver) return fire(program, run, event, receiver.layer, receiver.threads);
  const why = whyNoClick(scene, catcher, point);
  return { run, reports: [report(run, event, catcher?.layer.id ?? null, [], why, [])] };
}

function receiverOf(program: Program, scene: SceneProgram, catcher: Item | null, type: 'click'): { layer: string | null; threads: Thread[] } | null {
  for (const item of outward(catcher)) {
    const threads = cued(item.threads, type);
    if (threads.length) return { layer: item.layer.id, threads };
  }
  for (const outer of [scene.threads, program.threads]) {
    const threads = cued(outer, type);
    if (threads.length) return { layer: null, threads };
  }
  return null;
}

/** A click on a named layer is made where a person could make it: at a point of the layer that nothing hides. */
function clickLayer(program: Program, scene: SceneProgram, run: RunState, event: RunEvent & { type: 'click' }): Advanced {
  if (event.layer === null) return click(program, scene, run, event, null, { x: -1, y: -1 });
  const at = reachable(program, scene, event.layer);
  if ('code' in at) return { run, reports: [report(run, event, event.layer, [], [at], [])] };
  return click(program, scene, run, event, catcherAt(scene, at), at);
}

function hoverLayer(program: Program, scene: SceneProgram, run: RunState, event: RunEvent & { type: 'hover' }): Advanced {
  const at = reachable(program, scene, event.layer);
  if ('code' in at) return { run, reports: [report(run, event, event.layer, [], [at], [])] };
  return movePointer(program, scene, run, { type: 'move', ...at });
}

function reachable(program: Program, scene: SceneProgram, layer: string): Point | WhyNot {
  const item = scene.byId.get(layer);
  if (!item) {
    const elsewhere = program.piece.layers.get(layer);
    const sentence = elsewhere ? `${elsewhere.name} is not in this frame.` : 'There is no such layer.';
    return { code: 'not-here', sentence, layer };
  }
  if (!item.shown) return { code: 'unreachable', sentence: `${item.layer.name} is hidden.`, layer };
  const reach = reachOf(scene, item);
  if (reach.point || !item.catches) return reach.point ?? { x: item.box.x + item.box.width / 2, y: item.box.y + item.box.height / 2 };
  const by = reach.by ? `${reach.by.layer.name} lies over all of ${item.layer.name}.` : `${item.layer.name} lies outside its frame.`;
  return { code: 'covered', sentence: by, layer };
}

/** The frontmost layer with a thread for the key takes it, else the frame, else the piece. */
function pressKey(program: Program, scene: SceneProgram, run: RunState, event: RunEvent & { type: 'key' }): Advanced {
  const matches = (threads: readonly Thread[]) =>
    cued(threads, 'key').filter((thread) => thread.cue.type === 'key' && sameKey(thread.cue.key, event.key));
  for (let i = scene.items.length - 1; i >= 0; i--) {
    const item = scene.items[i]!;
    if (item.threads.length === 0 || !item.shown) continue;
    const threads = matches(item.threads);
    if (threads.length) return fire(program, run, event, item.layer.id, threads);
  }
  const outer = [matches(scene.threads), matches(program.threads)].find((threads) => threads.length > 0);
  if (outer) return fire(program, run, event, null, outer);
  return { run, reports: [report(run, event, null, [], whyNoKey(program, scene, event.key), [])] };
}

/** Keys are compared without case; a space is called Space. */
export const sameKey = (a: string, b: string): boolean => normalKey(a) === normalKey(b);

const normalKey = (key: string) => (key === ' ' ? 'space' : key.toLowerCase());

/** Lets time pass, stopping at every deadline on the way: by time, then by the order in the document. */
function wait(program: Program, run: RunState, ms: number): Advanced {
  const end = run.clock + ms;
  const reports: Report[] = [];
  let at = run;
  for (let guard = 0; guard < MOST_TIMERS; guard++) {
    const due = nextTimer(program, at);
    if (!due || due.at > end) break;
    const fired = fire(
      program,
      { ...at, clock: Math.max(at.clock, due.at), timersFired: at.timersFired + 1 },
      { type: 'wait', ms: due.ms },
      due.layer,
      [due.thread]
    );
    at = fired.run;
    reports.push(...fired.reports);
  }
  return { run: { ...at, clock: Math.max(end, at.clock) }, reports };
}

/** A frame that leads to itself after a millisecond would fire a day's wait away. */
const MOST_TIMERS = 1000;

/** The timer that fires next, by the run's clock; null where none is pending. */
export function nextTimer(program: Program, run: RunState): { at: number; ms: number; thread: Thread; layer: string | null } | null {
  const scene = program.scenes.get(run.frame);
  const timer = scene ? timersOf(scene)[run.timersFired] : undefined;
  return timer ? { at: run.entered + timer.ms, ...timer } : null;
}

function jump(program: Program, run: RunState, event: RunEvent & { type: 'jump' }): Advanced {
  if (!program.scenes.has(event.frame)) return quiet(run);
  const back = run.frame === event.frame ? run.back : [...run.back, run.frame];
  const effect: Effect = { type: 'go', from: run.frame, to: event.frame, transition: { type: 'cut' }, thread: '' };
  return { run: enter(run, event.frame, back), reports: [report(run, event, null, [], [], [effect])] };
}

/** The frame was deleted under a running piece: it goes on from the start. */
function lostFrame(program: Program, run: RunState, event: RunEvent): Advanced {
  const home = startFrame(program);
  return home === null ? quiet(run) : advance(program, enter(run, home, []), event);
}

const cued = (threads: readonly Thread[], type: Thread['cue']['type']): Thread[] =>
  threads.filter((thread) => thread.enabled && thread.cue.type === type);

/** Runs threads top to bottom. One event leaves one trace in the back stack, however many steps it takes. */
function fire(program: Program, run: RunState, event: RunEvent, layer: string | null, threads: readonly Thread[]): Advanced {
  let at = run;
  let wentBack = false;
  const fired: Fired[] = [];
  const effects: Effect[] = [];
  const whyNot: WhyNot[] = [];
  for (const thread of threads) {
    const steps = thread.branches[0]?.steps ?? [];
    if (steps.length === 0) whyNot.push({ code: 'no-steps', sentence: 'The thread has no step yet.', thread: thread.id });
    const outcomes = steps.map((step) => {
      const stepped = runStep(program, at, step, thread.id);
      wentBack ||= stepped.run !== at && step.do === 'go' && step.target.to === 'back';
      at = stepped.run;
      if (stepped.effect) effects.push(stepped.effect);
      if (stepped.whyNot) whyNot.push(layer === null ? stepped.whyNot : { ...stepped.whyNot, layer });
      return stepped.outcome;
    });
    fired.push({ thread: thread.id, steps: outcomes });
  }
  if (at.frame !== run.frame && !wentBack) at = { ...at, back: [...at.back, run.frame] };
  return { run: at, reports: [report(run, event, layer, fired, whyNot, effects)] };
}

const report = (
  run: RunState,
  event: RunEvent,
  layer: string | null,
  fired: readonly Fired[],
  whyNot: readonly WhyNot[],
  effects: readonly Effect[]
): Report => ({ clock: run.clock, event, layer, fired, whyNot, effects });
