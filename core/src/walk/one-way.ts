import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import type { Overlay, RunEvent } from '../run/state.ts';
import type { Deed } from './edges.ts';
import type { Exploration } from './exploration.ts';

/** A state that can be entered by a person, and never left while the frame stays. */
export interface Lost {
  readonly scene: string;
  /** What tells it from others: an instance and a state of it. */
  readonly what: string;
  /** In words: `Menu in Open`. */
  readonly name: string;
  /** Where it is met first. */
  readonly state: number;
}

/** What happens by itself. */
const BY_ITSELF: ReadonlySet<RunEvent['type']> = new Set(['wait', 'media']);

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

/** The states of scenes and parts, and the frames laid over, that have no way out in any state that was met. */
export const lostStates = (program: Program, exploration: Exploration): Lost[] => [
  ...lostOverlays(program, exploration),
  ...lostInside(program, exploration),
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
  const { states, edges, unfollowed, beyond } = exploration;
  return exploration.slots().flatMap(({ scene: root, kind, key, values, numberIn }) => {
    const sceneProgram = kind === 'states' && root !== null ? program.scenes.get(root) : undefined;
    const instance = sceneProgram && expand(program, sceneProgram).instances.get(key);
    if (!instance || root === null) return [];
    const [entered, left, first] = [new Set<number>(), new Set<number>(), new Map<number, number>()];
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
        if (BY_ITSELF.has(deed.event.type)) return;
        entered.add(next);
        if (!first.has(next)) first.set(next, to);
      });
    }
    return [...entered].flatMap((number) => {
      const id = values[number];
      const state = typeof id === 'string' ? instance.scene.scene.states?.[id] : undefined;
      if (number === 0 || !state || state.done || left.has(number)) return [];
      if (program.scenes.get(states[first.get(number)!]!.frame)?.scene.ending) return [];
      const name = `${instance.placement?.layer.name ?? instance.scene.scene.name} in ${state.name}`;
      return [{ scene: instance.placement?.layer.scene ?? instance.scene.scene.id, what: `${key}:${String(id)}`, name, state: first.get(number)! }];
    });
  });
}
