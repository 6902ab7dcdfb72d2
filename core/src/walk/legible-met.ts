import { Beside } from '../once.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import type { Overlay, Playhead, RunState } from '../run/state.ts';
import { areSame } from '../same.ts';
import type { Exploration } from './exploration.ts';
import type { Finding } from './finding.ts';
import { isHard, readIn, type Illegible } from './legible.ts';
import { isComplete } from './live.ts';
import { hasSpans, looksByTime, rested, sectionsWhere } from './rested.ts';
import { routeToRest } from './route-to-rest.ts';
import type { Slot } from './slots.ts';

/** Text as it is read in a state once all that only moves has come to rest, in timeline frames from then. */
interface ReadAt extends Illegible {
  readonly wait: number;
}

/** Text that is hard to read in a state that can be come to. */
export interface IllegibleMet extends ReadAt {
  readonly state: number;
  readonly exploration: Exploration;
}

/** What decides how things look, besides which frame is there. */
const LOOKS: ReadonlySet<string> = new Set(['states', 'flags', 'changes', 'bound', 'heads']);
/** Whether something is looked at by itself where a frame is judged as it is drawn: each state, and what is hidden at first shown. */
const isDrawn = ({ kind, key }: Pick<Slot, 'kind' | 'key'>, value: unknown): boolean =>
  kind === 'states' || (kind === 'flags' && key.endsWith('.shown') && value === true);

/** So many looks of a frame are looked at, where any two of its things are as they are in no look before. */
const MOST_LOOKS = 32;
/** So many of all its looks are held against what was found of a frame as it is drawn. */
const MOST_HELD = 64;
/** So many things of a frame that are not as they begin are held together two by two, and so many states gone over. */
const MOST_TOGETHER = 40;
const MOST_STATES = 20_000;

/** A state in which a frame looks as it does in none before. */
interface Look {
  readonly state: number;
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

interface Looks {
  readonly all: readonly Look[];
  /** There are no others. */
  readonly areAll: boolean;
}

/** Text that is hard to read somewhere that can be come to: where things laid over, states, bindings and steps make it so together. */
export function illegibleMet(program: Program, exploration: Exploration): readonly IllegibleMet[] {
  const hard = new Map<string, IllegibleMet>();
  for (const part of [exploration, ...exploration.slices])
    for (const look of looksIn(program, part).all) {
      if (!look.isNew) continue;
      for (const one of readAt(program, part, look)) {
        const before = hard.get(one.node.layer.id);
        if (!isHard(one) || (before && before.contrast <= one.contrast)) continue;
        hard.set(one.node.layer.id, { ...one, state: look.state, exploration: part });
      }
    }
  return [...hard.values()];
}

/** Where a layer, found hard to read as its frame is drawn, is so when it is come to. */
export interface WhereHard {
  /** Null where that is not known. */
  readonly at: Pick<IllegibleMet, 'state' | 'exploration' | 'wait'> | null;
  /** It never is: it is read wherever its frame can be come to, and on other ground. Of that all looks of the frame have to be looked at. */
  readonly isNowhere: boolean;
}

export function whereHard(program: Program, exploration: Exploration, frame: string, layer: string): WhereHard {
  let isNowhere = isComplete(exploration);
  let isRead = false;
  for (const part of [exploration, ...exploration.slices]) {
    const { all, areAll } = looksIn(program, part);
    const own = all.filter((look) => look.frame === frame || look.overlays.some((overlay) => overlay.frame === frame));
    isNowhere &&= areAll && own.length <= MOST_HELD;
    for (const look of own.slice(0, MOST_HELD))
      for (const one of readAt(program, part, look)) {
        if (one.node.layer.id !== layer) continue;
        if (isHard(one)) return { at: { state: look.state, exploration: part, wait: one.wait }, isNowhere: false };
        isRead = true;
      }
  }
  return { at: null, isNowhere: isNowhere && isRead };
}

/** The route to where a text is hard to read; null where it is not, as something else comes before what moves has come to rest. */
export function routeToHard(
  program: Program,
  { exploration, state, wait }: Pick<IllegibleMet, 'state' | 'exploration' | 'wait'>,
  layer: string
): Finding['route'] | null {
  const isThere = (run: RunState) => {
    const expansions = scenesOn(program, run).map((root) => expand(program, program.scenes.get(root)!));
    return readIn(program, run, expansions).some((one) => one.node.layer.id === layer && isHard(one));
  };
  return routeToRest(program, exploration, state, wait, isThere);
}

const looks = new Beside<Exploration['edges'], Looks & { readonly of: readonly unknown[] }>();

/** The looks of frames that are come to. */
export function looksIn(program: Program, exploration: Exploration): Looks {
  const { edges } = exploration;
  const of = [edges.length, program.frames, timedIn(program)];
  const old = looks.get(edges);
  return old && areSame(old.of, of) ? old : looks.set(edges, { ...looksFound(program, exploration), of });
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
    all.push({ state, frame, overlays, words, isNew });
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

interface Known {
  readonly of: readonly unknown[];
  readonly read: readonly ReadAt[];
}

const known = new Beside<Expansion, Map<string, Known>>();

/** Every text that is read in a state, with its contrast: found once for each look, as long as nothing that is on the screen is edited. */
function readAt(program: Program, exploration: Exploration, { state, frame, overlays, words }: Look): readonly ReadAt[] {
  const expansions = scenesOn(program, { frame, overlays }).map((root) => expand(program, program.scenes.get(root)!));
  const { swatches, typeStyles } = program.piece.head;
  const { standingIn } = exploration;
  const standing = expansions.map(({ root }) => [...standingIn(root.scene.id)].join());
  const of = [swatches, typeStyles, ...standing, ...expansions];
  let looks = known.get(expansions[0]!);
  if (!looks) known.set(expansions[0]!, (looks = new Map<string, Known>()));
  const old = looks.get(words);
  if (old && areSame(old.of, of)) return old.read;
  const { run, frames: wait } = rested(exploration.runOf(state), expansions, standingIn);
  const read = readIn(program, run, expansions).map((one): ReadAt => {
    const section = expansions.flatMap((expansion) => (expansion.nodes.includes(one.node) ? sectionsWhere(run, expansion, one.node) : []))[0];
    return { ...one, wait, ...(section && { when: [section, one.when].filter(Boolean).join(', ') }) };
  });
  looks.set(words, { of, read });
  return read;
}
