import type { Notebook } from './notebook.ts';
import { STANDING } from './resolve.ts';
import type { Playhead, RootRun, RunState } from './state.ts';
import { isRecord } from './store.ts';

/** Not told apart: times count from the event on. */
const UNNOTED: ReadonlySet<string> = new Set(['clock', 'count', 'scene', 'entered']);

/** A run of which is noted what is read. */
export function watchedRun(notes: Notebook, target: RunState): RunState {
  const { base } = notes;
  let roots: RunState['roots'] | null = null;
  let variables: RunState['variables'] | null = null;
  const made: RunState = new Proxy(target, {
    get(_, field: keyof RunState | typeof STANDING) {
      if (field === STANDING) return notes.standing ? () => notes.standing!(target, made) : undefined;
      if (field === 'roots') return (roots ??= watchedRoots(notes, target.roots));
      if (field === 'variables') return (variables ??= watchedRecord(notes, 'v', target.variables, base.variables));
      const value = target[field];
      if (field === 'back') {
        if (value === base.back) notes.note('back');
        else if (target.back.length === 0 && base.back.length > 0) notes.isDeep = true;
      } else if (!UNNOTED.has(field) && value === base[field]) notes.note(field);
      return value;
    },
  });
  notes.raws.set(made, target);
  return made;
}

function watchedRoots(notes: Notebook, target: RunState['roots']): RunState['roots'] {
  const known = new Map<string, RootRun>();
  return new Proxy(target, {
    get(_, scene: string) {
      const root = target[scene];
      if (root && notes.fresh.has(root)) return watchedFresh(notes, root);
      if (!root && notes.base.roots[scene]) return undefined;
      notes.note(`${scene}|here`);
      if (!root) return undefined;
      let made = known.get(scene);
      if (!made) known.set(scene, (made = watchedRoot(notes, root)));
      return made;
    },
    ownKeys() {
      throw new Error('What is on the screen is told by the frame and what lies over it, not by all that is kept.');
    },
  });
}

/** Of a root that has come since only what bindings give was worked out of anything. */
function watchedFresh(notes: Notebook, target: RootRun): RootRun {
  if (notes.computed.size === 0) return target;
  const bound = new Proxy(target.bound, {
    get(_, key: string) {
      notes.noteAll(notes.computed.get(`${target.scene}|bound|${key}`) ?? []);
      return target.bound[key];
    },
  });
  const made = new Proxy(target, { get: (_, field: keyof RootRun) => (field === 'bound' ? bound : target[field]) });
  notes.raws.set(made, target);
  return made;
}

function watchedRoot(notes: Notebook, target: RootRun): RootRun {
  const { scene } = target;
  const base = notes.base.roots[scene]!;
  const known = new Map<string, object>();
  const made = new Proxy(target, {
    get(_, field: keyof RootRun) {
      const value = target[field];
      if (UNNOTED.has(field)) return value;
      if (!isRecord(field)) {
        if (value === base[field]) notes.note(`${scene}|${field}`);
        return value;
      }
      let record = known.get(field);
      if (!record)
        known.set(
          field,
          (record = watchedRecord(notes, `${scene}|${field}`, value as Record<string, unknown>, base[field] as Record<string, unknown>))
        );
      return record;
    },
  });
  notes.raws.set(made, target);
  return made;
}

function watchedRecord<T extends Readonly<Record<string, unknown>>>(notes: Notebook, name: string, target: T, base: T): T {
  const isHeads = name.endsWith(HEADS);
  const made = new Proxy(target, {
    get(_, key) {
      if (typeof key !== 'string') return undefined;
      const value = target[key];
      const computed = notes.computed.size > 0 && notes.computed.get(`${name}|${key}`);
      if (computed) notes.noteAll(computed);
      if (computed || value !== base[key]) return value;
      notes.note(`${name}|${key}`);
      return value && isHeads ? watchedHead(notes, `${name.slice(0, -HEADS.length)}|since|${key}`, value as Playhead) : value;
    },
    has(_, key) {
      notes.note(`${name}|${String(key)}`);
      return key in target;
    },
    ownKeys() {
      notes.note(`${name}|*`);
      return Reflect.ownKeys(target);
    },
  });
  notes.raws.set(made, target);
  return made;
}

const HEADS = '|heads';

/** A playhead of which how long ago it was where it says is noted by itself: what does not ask for that is so at any moment of its way. */
function watchedHead(notes: Notebook, name: string, target: Playhead): Playhead {
  const made = new Proxy(target, {
    get(_, field: keyof Playhead) {
      if (field === 'since' && target.playing) notes.note(name);
      return target[field];
    },
  });
  notes.raws.set(made, target);
  return made;
}
