import { expand, type Expansion } from '../program/expand.ts';
import { statesAround, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { framesPerSecond } from '../run/playhead.ts';
import type { Activity, RootRun, RunState } from '../run/state.ts';
import type { Step } from '../steps/schemas.ts';
import type { Telling } from './telling.ts';

/** The back stack is told apart this deep. */
export const BACK_DEPTH = 4;

/**
 * What tells two settled runs apart: all that can still matter. The pointer and the clock are left out, pending times count
 * from now, and what is as it began is the same whether it was ever set or not.
 */
export function runKey(program: Program, run: RunState, telling: Telling): string {
  const live = new Set([
    run.frame,
    ...run.overlays.map((overlay) => overlay.frame),
    ...(program.scenes.get(run.frame)?.scene.carries ?? []).map(({ sheet }) => sheet),
  ]);
  const roots = Object.values(run.roots)
    .map((root) => rootKey(program, run, root, telling))
    .filter((key) => live.has(key[0] as string) || key.slice(1).some((part) => !isEmpty(part)))
    .sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));
  return JSON.stringify([
    run.frame,
    telling.back ? run.back.slice(-BACK_DEPTH) : [],
    run.overlays,
    changed(run.variables, (key) => program.variables.get(key)?.initial),
    telling.pad ? run.pad : -1,
    pending(program, run),
    roots,
    run.over,
    run.focus,
  ]);
}

const isEmpty = (part: unknown) => Array.isArray(part) && part.length === 0;

function rootKey(program: Program, run: RunState, root: RootRun, telling: Telling): unknown[] {
  const scene = program.scenes.get(root.scene);
  if (!scene) return [root.scene];
  const { clock } = run;
  const fps = framesPerSecond(program);
  const expansion = expand(program, scene);
  const first = beginningsOf(expansion);
  return [
    root.scene,
    changed(root.states, first.state),
    Object.entries(root.changes)
      .map(([key, numbers]) => [key, changed(numbers as Record<string, number>, (name) => first.number(key, name))] as const)
      .filter(([, numbers]) => numbers.length)
      .sort(byKey),
    changed(root.flags, first.flag),
    changed(root.values, first.value),
    changed(root.variables, (key) => program.variables.get(key.slice(key.lastIndexOf(':') + 1))?.initial),
    Object.entries(root.heads).map(([instance, head]) => [
      instance,
      head.playing,
      Math.floor(head.at + (head.playing ? ((clock - head.since) * fps) / 1000 + 1e-6 : 0)),
      Math.min(2, head.visits),
      head.rounds ?? 0,
    ]),
    telling.scroll ? Object.entries(root.scroll).sort(byKey) : [],
    Object.entries(root.media).sort(byKey),
    root.timers.map((timer) => [timer.thread, timer.instance, timer.due - clock]),
  ];
}

const byKey = ([a]: readonly [string, unknown], [b]: readonly [string, unknown]) => (a < b ? -1 : 1);

/** The entries that are not as they began, in the order of their keys. */
const changed = <T>(record: Readonly<Record<string, T>>, first: (key: string) => T | undefined): [string, T][] =>
  Object.entries(record)
    .filter(([key, value]) => first(key) !== value)
    .sort(byKey);

interface Beginnings {
  readonly state: (instance: string) => string | undefined;
  readonly flag: (key: string) => boolean | undefined;
  readonly value: (node: string) => string | number | boolean | undefined;
  readonly number: (node: string, name: string) => number | undefined;
}

const known = new WeakMap<Expansion, Beginnings>();

/** What things are while nobody has set them; undefined where that depends on something else. */
function beginningsOf(expansion: Expansion): Beginnings {
  const old = known.get(expansion);
  if (old) return old;
  const touchedIn = (node: Node, what: 'hidden' | 'pose' | 'state') =>
    statesAround(node).some(({ deltas, path }) => deltas[path]?.[what] !== undefined);
  const made: Beginnings = {
    state: (key) => {
      const instance = expansion.instances.get(key);
      const placement = instance?.placement;
      if (!instance || (placement && (placement.layer.bindings?.state !== undefined || touchedIn(placement, 'state')))) return undefined;
      return placement?.layer.state ?? instance.scene.initial ?? undefined;
    },
    flag: (key) => {
      const at = key.lastIndexOf('.');
      const node = expansion.byKey.get(key.slice(0, at));
      if (!node) return undefined;
      const { layer } = node;
      if (key.endsWith('.selected')) return layer.selected ?? layer.field?.value === true;
      if (key.endsWith('.enabled')) return layer.disabled !== true;
      return touchedIn(node, 'hidden') ? undefined : layer.hidden !== true;
    },
    value: (key) => {
      const field = expansion.byKey.get(key)?.layer.field;
      return field && (field.value ?? (field.kind === 'number' || field.kind === 'slider' ? (field.min ?? 0) : ''));
    },
    number: (key, name) => {
      const node = expansion.byKey.get(key);
      if (!node || node.instance.scene.scene.timeline || touchedIn(node, 'pose')) return undefined;
      if (name === 'opacity') return undefined;
      return { rotation: 0, scale: 1, ...node.layer.pose }[name as 'x'];
    },
  };
  known.set(expansion, made);
  return made;
}

/** Steps that do the same twice as once. */
const REPEATABLE: ReadonlySet<Step['do']> = new Set(['go', 'show', 'select', 'enable', 'wait']);

/** Steps that wait, by the time that is left. The same ones due at one moment a third time do nothing that twice did not. */
function pending(program: Program, run: RunState): unknown[] {
  const seen = new Map<string, number>();
  return run.activities.flatMap((activity) => {
    const { id: _id, due, ...rest } = activity;
    const one = { ...rest, due: due === Infinity ? null : due - run.clock };
    const key = JSON.stringify(one);
    const times = (seen.get(key) ?? 0) + 1;
    seen.set(key, times);
    return times > 2 && isRepeatable(program, activity) ? [] : [one];
  });
}

function isRepeatable(program: Program, { thread, branch, next }: Activity): boolean {
  const steps = program.piece.threads.get(thread)?.branches[branch]?.steps.slice(next) ?? [];
  return steps.every(
    (step) =>
      (REPEATABLE.has(step.do) && !(step.do === 'go' && step.target.to !== 'frame') && !('what' in step && step.what === 'toggle')) ||
      (step.do === 'state' && 'state' in step.to)
  );
}
