import type { Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { Notebook, type SlotName } from './notebook.ts';
import { screenOf, standOf, type Screen, type See, type Stood, type Surface } from './resolve.ts';
import type { RunState } from './state.ts';
import { watchedRun } from './watched.ts';

/** Where everything stands in a run, and what was read of it for that, layer by layer. */
export interface KnownScreen {
  readonly program: Program;
  readonly run: RunState;
  readonly screen: Screen<Stood>;
  /** What is read of the run whatever is asked of the screen. */
  readonly reads: readonly SlotName[];
  /** What was read for each layer by itself, those included that turned out to be hidden; not those in hidden ones. */
  readonly own: ReadonlyMap<Node, readonly SlotName[]>;
  /** What was read of how far scenes are scrolled. */
  readonly scrolls: ReadonlySet<SlotName>;
  /** Whether a slot was ever other than it began. */
  readonly isOpen: (name: SlotName) => boolean;
  /** Its surfaces where something moves, cut into what moves together. */
  readonly cuts: ReadonlyMap<Surface<Stood>, readonly Cut[]>;
}

/** A layer that is in nothing else, with all that is in it: what is hidden in it cuts it no other way. */
export interface Cut {
  /** Whether anything in it ever moves, comes or goes. */
  readonly moves: boolean;
  readonly layers: readonly {
    readonly node: Node;
    /** Null for one that is not shown. */
    readonly stood: Stood | null;
    /** The slots with which it comes and goes, and moves by itself, from the outermost layer's around it on. */
    readonly names: readonly SlotName[];
  }[];
  /** The slot with which all of it moves, where its scene is ever scrolled. */
  readonly scroll: SlotName | null;
}

/** Read for the screen as a whole, and not for a layer. */
const isGeneral = (name: SlotName) => name === 'frame' || name === 'overlays' || name.endsWith('|here');

/** The slot that says how far a scene is scrolled. */
export const scrollOf = (scene: string): SlotName => `${scene}|scroll|`;

export const isScroll = (name: SlotName): boolean => name.endsWith('|scroll|');

/** Works out where everything stands; what is read for what stands still gets one name together. */
export function knowScreen(
  program: Program,
  run: RunState,
  isOpen: (name: SlotName) => boolean,
  bundle: (names: readonly SlotName[]) => SlotName
): KnownScreen {
  const notes = new Notebook(run);
  const standing = standingNoted(program, notes, watchedRun(notes, run), () => null);
  const general = notes.reads as SlotName[];
  const { screen, own, scrolls } = standing;
  const { still, cuts } = cutUp(standing, isOpen);
  return { program, run, screen, reads: [...general, bundle(still)], own, scrolls, isOpen, cuts };
}

/** Surfaces cut into what moves together, and the slots with which nothing ever moved; those that are known already are left out of them. */
export function cutUp(
  { screen, own, scrolls }: Standing,
  isOpen: (name: SlotName) => boolean,
  known: Pick<Standing, 'own' | 'scrolls'> | null = null
): { readonly still: readonly SlotName[]; readonly cuts: KnownScreen['cuts'] } {
  const still: SlotName[] = [];
  const moving = new Map<Node, readonly SlotName[]>();
  for (const [node, names] of own) {
    const isKnown = known?.own.get(node) === names;
    let open: SlotName[] | null = null;
    for (const name of names)
      if (isOpen(name)) (open ??= []).push(name);
      else if (!isKnown) still.push(name);
    if (open) moving.set(node, open);
  }
  const scrolling = new Set<SlotName>();
  for (const name of scrolls)
    if (isOpen(name)) scrolling.add(name);
    else if (!known?.scrolls.has(name)) still.push(name);
  const cuts = new Map(
    screen.surfaces.map((surface) => {
      const name = scrollOf(surface.scene);
      return [surface, cutsOf(surface, moving, scrolling.has(name) ? name : null)];
    })
  );
  return { still, cuts };
}

function cutsOf({ expansion, all }: Surface<Stood>, moving: ReadonlyMap<Node, readonly SlotName[]>, scroll: SlotName | null): readonly Cut[] {
  if (scroll === null && !expansion.nodes.some((node) => moving.has(node))) return NONE;
  const stoods = new Map(all.map((stood) => [stood.node, stood]));
  const around = new Map<Node, readonly SlotName[]>();
  const cuts: { moves: boolean; layers: Cut['layers'][number][]; scroll: SlotName | null }[] = [];
  for (const node of expansion.nodes) {
    const outer = node.parent ? around.get(node.parent)! : NONE;
    const own = moving.get(node);
    const names = own ? [...new Set([...outer, ...own])] : outer;
    around.set(node, names);
    if (!node.parent) cuts.push({ moves: scroll !== null, layers: [], scroll });
    const cut = cuts.at(-1)!;
    cut.layers.push({ node, stood: stoods.get(node) ?? null, names });
    cut.moves ||= names.length > 0;
  }
  return cuts;
}

const NONE: readonly never[] = [];

interface Standing {
  readonly screen: Screen<Stood>;
  readonly own: ReadonlyMap<Node, readonly SlotName[]>;
  /** What was read of how far scenes are scrolled. */
  readonly scrolls: ReadonlySet<SlotName>;
}

/** How a layer stood before, or null that it was hidden, with what was read for that. */
export interface Before {
  readonly stood: Stood | null;
  readonly reads: readonly SlotName[];
}

/** Where everything stands in a run that is watched. What is known of a layer from before need not be read. */
export function standingNoted(program: Program, notes: Notebook, watched: RunState, before: (node: Node) => Before | null): Standing {
  const own = new Map<Node, readonly SlotName[]>();
  const scrolls = new Set<SlotName>();
  let reads: SlotName[] = [];
  const see: See<Stood> = (resolving, node, parent) => {
    const known = before(node);
    reads = [];
    own.set(node, known?.reads ?? reads);
    return known ? known.stood && { ...known.stood, parent, children: [] } : standOf(resolving, node, parent);
  };
  const screen = notes.sorted(
    (name) => {
      if (isGeneral(name)) notes.plainly([name]);
      else if (isScroll(name)) scrolls.add(name);
      else if (!reads.includes(name)) reads.push(name);
    },
    () => screenOf(program, watched, see)
  );
  return { screen, own, scrolls };
}
