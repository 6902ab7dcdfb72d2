import { expand } from '../program/expand.ts';
import type { Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import type { Overlay, RunEvent } from '../run/state.ts';
import { isPointed } from '../vocabulary/cues/all.ts';
import type { Deed } from './edges.ts';
import type { Exploration } from './exploration.ts';
import { keptOff } from './kept-off.ts';
import { INITIAL } from './slots.ts';

/** What a person can bring about, and what stays so as long as the frame stays. */
export interface Lost {
  readonly scene: string;
  /** For a panel: the layer that it is. */
  readonly layer?: string;
  /** What tells it from others: an instance and a state of it. */
  readonly what: string;
  /** In words: `Menu in Open`. */
  readonly name: string;
  /** For a panel: what lies behind it, by name. */
  readonly behind?: readonly string[];
  /** Where it is met first. */
  readonly state: number;
}

/** What happens by itself. */
const BY_ITSELF: ReadonlySet<RunEvent['type']> = new Set(['wait', 'media']);

/** Whether a person did something, now or by a press of which some steps have waited. */
const isByPerson = ({ piece }: Program, { event, threads }: Deed): boolean =>
  !BY_ITSELF.has(event.type) ||
  threads.some((id) => {
    const thread = piece.threads.get(id);
    return thread !== undefined && (isPointed(thread.cue) || thread.cue.type === 'key');
  });

/**
 * Whether something leads away from a frame by itself because of what was opened: steps that go on, a time in a state or on a frame laid
 * over. What leads away sooner or later whatever was opened brings none of it to an end.
 */
const endsIt = ({ piece }: Program, { event, threads }: Deed, laid: ReadonlySet<string> = NONE): boolean =>
  event.type === 'wait' &&
  threads.every((id) => {
    const thread = piece.threads.get(id);
    if (!thread || laid.has(thread.owner)) return true;
    const { cue } = thread;
    return cue.type !== 'label' && (cue.type !== 'after' || cue.state !== undefined);
  });

const NONE: ReadonlySet<string> = new Set();

/** The states of scenes and parts, the frames laid over, and the panels, that have no way out in any state that was met. */
export const lostStates = (program: Program, exploration: Exploration): Lost[] => [
  ...lostOverlays(program, exploration),
  ...lostInside(program, exploration),
  ...lostPanels(program, exploration),
];

/** Frames that are laid over and never lifted. */
function lostOverlays(program: Program, { states, edges, unfollowed, beyond, slots }: Exploration): Lost[] {
  const slot = slots().find(({ scene, kind }) => scene === null && kind === 'overlays');
  if (!slot) return [];
  const laid = slot.values.map((value) => new Set(((value ?? []) as readonly Overlay[]).map(({ frame }) => frame)));
  const [entered, left] = [new Map<string, number>(), new Set<string>()];
  for (const at of states.keys()) {
    const now = laid[slot.numberIn(at)]!;
    if (unfollowed.has(at)) for (const frame of now) left.add(frame);
    for (const to of beyond.get(at) ?? [])
      if (states[to]!.frame === states[at]!.frame) for (const frame of now) if (!laid[slot.numberIn(to)]!.has(frame)) left.add(frame);
    edges.each(at, (to, deed) => {
      const next = laid[slot.numberIn(to)]!;
      const stays = states[to]!.frame === states[at]!.frame;
      if (stays || (now.size && endsIt(program, deed, now))) for (const frame of now) if (!next.has(frame)) left.add(frame);
      if (stays) for (const frame of next) if (!now.has(frame) && !entered.has(frame)) entered.set(frame, to);
    });
  }
  return [...entered].flatMap(([frame, state]) => {
    const scene = program.piece.scenes.get(frame);
    if (!scene || left.has(frame) || scene.ending) return [];
    return [{ scene: frame, what: 'laid', name: `${scene.name} laid over`, state }];
  });
}

function lostInside(program: Program, exploration: Exploration): Lost[] {
  return exploration.slots().flatMap(({ scene: root, kind, key, values, numberIn }) => {
    const sceneProgram = kind === 'states' && root !== null ? program.scenes.get(root) : undefined;
    const instance = sceneProgram && expand(program, sceneProgram).instances.get(key);
    if (!instance || root === null) return [];
    return [...staying(program, exploration, numberIn)].flatMap(([number, first]) => {
      const id = values[number];
      const state = typeof id === 'string' ? instance.scene.scene.states?.[id] : undefined;
      if (!state || state.done) return [];
      const name = `${instance.placement?.layer.name ?? instance.scene.scene.name} in ${state.name}`;
      return [{ scene: instance.placement?.layer.scene ?? instance.scene.scene.id, what: `${key}:${String(id)}`, name, state: first }];
    });
  });
}

/** The numbers that a person can bring a slot to and nothing brings it out of while the frame stays, each with where it is met first; none of endings. */
function staying(program: Program, { states, edges, unfollowed, beyond }: Exploration, numberIn: (state: number) => number): Map<number, number> {
  const [left, first] = [new Set<number>(), new Map<number, number>()];
  for (const at of states.keys()) {
    const value = numberIn(at);
    if (value !== 0 && unfollowed.has(at)) left.add(value);
    for (const to of beyond.get(at) ?? []) if (states[to]!.frame === states[at]!.frame && numberIn(to) !== value) left.add(value);
    edges.each(at, (to, deed) => {
      const next = numberIn(to);
      if (states[to]!.frame !== states[at]!.frame) {
        if (value !== 0 && !left.has(value) && endsIt(program, deed)) left.add(value);
        return;
      }
      if (next === value) return;
      left.add(value);
      if (!first.has(next) && isByPerson(program, deed)) first.set(next, to);
    });
  }
  const ends = (state: number) => program.scenes.get(states[state]!.frame)?.scene.ending;
  return new Map([...first].filter(([number, state]) => number !== INITIAL && !left.has(number) && !ends(state)));
}

/** Layers that a step or a variable shows, that keep presses off what lies behind them, and that nothing takes away again. */
function lostPanels(program: Program, exploration: Exploration): Lost[] {
  return exploration.slots().flatMap(({ scene: root, kind, key, values, numberIn }) => {
    const node = root !== null && SHOWN.has(kind) && nodeShownBy(program, root, key);
    if (!node || !catchesAnything(node)) return [];
    return [...staying(program, exploration, numberIn)].flatMap(([number, first]) => {
      if (values[number] !== true) return [];
      const there = [...exploration.states.keys()].filter((at) => numberIn(at) === number);
      const behind = keptOff(program, exploration, first, there, node).map(({ layer }) => layer.name);
      if (behind.length === 0) return [];
      return [{ scene: node.layer.scene, layer: node.layer.id, what: `${node.key}:shown`, name: node.layer.name, behind, state: first }];
    });
  });
}

const catchesAnything = (node: Node): boolean => node.catches || node.children.some(catchesAnything);

/** The slots that say whether a layer is shown: by steps, and by bindings. */
const SHOWN: ReadonlySet<string> = new Set(['flags', 'bound']);

function nodeShownBy(program: Program, root: string, key: string): Node | undefined {
  const scene = program.scenes.get(root);
  const path = /^(.*)[.:]shown$/.exec(key)?.[1];
  return scene && path !== undefined ? expand(program, scene).byKey.get(path) : undefined;
}
