import { Beside } from '../once.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import { replay, start } from '../run/run.ts';
import type { Overlay, Playhead, RunState } from '../run/state.ts';
import { areSame } from '../same.ts';
import type { Exploration, Spot } from './exploration.ts';
import { routeOf, startOf } from './explore.ts';
import type { Route } from './finding.ts';
import { hasSpans, looksByTime } from './rested.ts';
import type { Slot } from './slots.ts';
import { branchesMoving } from './stirred.ts';

/** What decides how things look, besides which frame is there. */
const LOOKS: ReadonlySet<string> = new Set(['states', 'flags', 'changes', 'bound', 'heads']);
/** Whether something is looked at by itself where a frame is judged as it is drawn: each state, and what is hidden at first shown. */
const isDrawn = ({ kind, key }: Pick<Slot, 'kind' | 'key'>, value: unknown): boolean =>
  kind === 'states' || (kind === 'flags' && key.endsWith('.shown') && value === true);

/** So many looks of a frame are looked at, where any two of its things are as they are in no look before. */
const MOST_LOOKS = 32;
/** So many of all its looks are held against what was found of a frame as it is drawn. */
export const MOST_HELD = 64;
/** So many things of a frame that are not as they begin are held together two by two, and so many states gone over. */
const MOST_TOGETHER = 40;
const MOST_STATES = 20_000;

/** So many steps that set going what only moves are looked at. */
const MOST_STIRRED = 24;

/** How a frame looks in a state, or once something was done there, as it does in none before. */
export interface Look {
  readonly run: () => RunState;
  readonly route: () => Route;
  /** What only moves is where it is in the run; else it stands where it begins. */
  readonly isUnderWay: boolean;
  readonly frame: string;
  readonly overlays: readonly Overlay[];
  /** All that tells it from others. */
  readonly words: string;
  /** Some two things are as they were together in none before, and it is not only as it was drawn. */
  readonly isNew: boolean;
}

/** Something that is other than it begins; it may have been looked at by itself. */
interface Other {
  readonly words: string;
  readonly isDrawn: boolean;
}

export interface Looks {
  readonly all: readonly Look[];
  /** There are no others. */
  readonly areAll: boolean;
}

/** What is on the screen, from back to front. */
export const expansionsOn = (program: Program, run: Pick<RunState, 'frame' | 'overlays'>): readonly Expansion[] =>
  scenesOn(program, run).flatMap((root) => {
    const scene = program.scenes.get(root);
    return scene ? [expand(program, scene)] : [];
  });

const looks = new Beside<Exploration['edges'], Looks & { readonly of: readonly unknown[] }>();

/** The looks of frames that are come to. */
export function looksIn(program: Program, exploration: Exploration): Looks {
  const { edges } = exploration;
  const timelines = Array.from(program.scenes.values(), ({ scene }) => scene.timeline).filter((timeline) => timeline !== undefined);
  const of = [edges.length, program.frames, timedIn(program), ...timelines];
  const old = looks.get(edges);
  if (old && areSame(old.of, of)) return old;
  const { all, areAll } = looksFound(program, exploration);
  return looks.set(edges, { all: [...all, ...looksStirred(program, exploration)], areAll, of });
}

/** How frames look once something was done that sets going what only moves: no state is another for it. */
function looksStirred(program: Program, exploration: Exploration): readonly Look[] {
  const { places } = exploration;
  const spots = branchesMoving(program, exploration).flatMap((key) => (places.get(key) ?? []).slice(0, 1).map((spot) => ({ key, spot })));
  return spots.slice(0, MOST_STIRRED).map(({ key, spot }) => lookAfter(program, exploration, key, spot));
}

function lookAfter(program: Program, exploration: Exploration, key: string, { state, step }: Spot): Look {
  const route: Route = { from: startOf(exploration, state), events: exploration.routeTo(state, undefined, [step]) };
  const { run } = replay(program, start(program, route.from)!, route.events);
  const { frame, overlays } = run;
  return { run: () => run, route: () => route, isUnderWay: true, frame, overlays, words: `${frame} after ${key}`, isNew: true };
}

/** The scenes that look otherwise by where timelines are, as one text to compare. */
function timedIn(program: Program): string {
  const scenes = [...program.scenes.values()];
  if (!scenes.some(({ scene }) => scene.timeline)) return '';
  const expansions = scenes.filter(({ scene }) => scene.use !== 'part').map((scene) => expand(program, scene));
  return expansions.flatMap((one) => (looksByTime(one) ? `${one.root.scene.id} ${hasSpans(one)}` : [])).join();
}

function looksFound(program: Program, exploration: Exploration): Looks {
  const slots = exploration.slots();
  const slotOf = (kind: string) => slots.find((slot) => slot.scene === null && slot.kind === kind);
  const [at, laid] = [slotOf('frame'), slotOf('overlays')];
  if (!at) return { all: [], areAll: false };
  const byScene = new Map<string | null, (typeof slots)[number][]>();
  for (const slot of slots)
    if (LOOKS.has(slot.kind)) {
      const known = byScene.get(slot.scene);
      if (known) known.push(slot);
      else byScene.set(slot.scene, [slot]);
    }
  const expansions = new Map<string, Expansion | null>();
  const expansionOf = (root: string): Expansion | null => {
    let expansion = expansions.get(root);
    if (expansion === undefined) {
      const scene = program.scenes.get(root);
      expansions.set(root, (expansion = scene ? expand(program, scene) : null));
    }
    return expansion;
  };
  const { length } = exploration.edges;
  const all: Look[] = [];
  const known = new Map<string, { readonly words: Set<string>; readonly together: Set<string>; looks: number }>();
  for (let state = 0; state < Math.min(length, MOST_STATES); state++) {
    const frame = at.values[at.numberIn(state)] as string;
    const over = laid?.numberIn(state) ?? 0;
    const overlays = over > 0 ? (laid!.values[over] as readonly Overlay[]) : NONE;
    const other: Other[] = [];
    for (const root of scenesOn(program, { frame, overlays })) {
      const expansion = expansionOf(root);
      const isThereByTime = expansion !== null && hasSpans(expansion);
      const stand: string[] = [];
      for (const slot of byScene.get(root) ?? NONE) {
        const number = slot.numberIn(state);
        const value = slot.values[number];
        if (slot.kind === 'heads') stand.push(standOf(value as Playhead | undefined, isThereByTime));
        else if (number > 0) other.push({ isDrawn: isDrawn(slot, value), words: `${root} ${slot.kind} ${slot.key} ${JSON.stringify(value)}` });
      }
      // How it is drawn says nothing of what looks otherwise by that.
      if (expansion && looksByTime(expansion)) other.push({ isDrawn: false, words: `${root} at ${stand.join()}` });
    }
    if (over > 0) other.push({ isDrawn: false, words: JSON.stringify(overlays) });
    const words = `${frame} ${other.map((one) => one.words).join('; ')}`;
    let own = known.get(frame);
    if (!own) known.set(frame, (own = { words: new Set(), together: new Set(), looks: 0 }));
    if (own.words.has(words) || own.words.size > MOST_HELD) continue;
    own.words.add(words);
    const isNew = isNewTogether(own.together, other) && own.looks < MOST_LOOKS;
    if (isNew) own.looks++;
    all.push({
      run: () => exploration.runOf(state),
      route: () => routeOf(exploration, state),
      isUnderWay: false,
      frame,
      overlays,
      words,
      isNew,
    });
  }
  return { all, areAll: length <= MOST_STATES };
}

/** Where a playhead stands, in a word; on its way it is in no one place, but what is there at some time may be so since it set out. */
function standOf(head: Playhead | undefined, isThereByTime: boolean): string {
  if (!head) return 'first';
  return head.playing ? `moving ${isThereByTime ? head.at : ''}` : String(head.at);
}

/** Whether two things are together as they were not before, or one is that is not looked at by itself; they count as such from now on. */
function isNewTogether(together: Set<string>, all: readonly Other[]): boolean {
  const { size } = together;
  const few = all.slice(0, MOST_TOGETHER);
  few.forEach(({ words, isDrawn }, i) => {
    if (!isDrawn) together.add(words);
    for (const other of few.slice(i + 1)) together.add(`${words} ${other.words}`);
  });
  return together.size > size;
}

const NONE: readonly never[] = [];
