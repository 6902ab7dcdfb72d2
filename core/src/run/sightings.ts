import type { Point } from '../program/geometry.ts';
import type { Matrix } from '../program/matrix.ts';
import type { Node } from '../program/node.ts';
import { cutUp, isScroll, scrollOf, standingNoted, type Before, type Cut, type KnownScreen } from './known-screen.ts';
import type { Notebook, SlotName } from './notebook.ts';
import type { Screen, Stood, Surface } from './resolve.ts';
import type { RunState } from './state.ts';
import { RECORDS } from './store.ts';

/**
 * Screens that note what is looked at: of a layer that is passed over only that it is not what was looked for, of one that is measured
 * where it stands. So that a press does not depend on where everything else is, but on who is in its way.
 */
export class Sightings {
  private readonly screens = new Map<RunState, View>();
  private view: View | null = null;
  private stoods: ReadonlyMap<Node, Stood> | null = null;
  private readers: ReadonlyMap<SlotName, readonly Node[]> | null = null;

  constructor(
    private readonly notes: Notebook,
    private readonly known: KnownScreen
  ) {}

  private get first(): View {
    return (this.view ??= new View(this.notes, this.known));
  }

  /** Where everything stands in a run that came of the one that is known. */
  of(run: RunState, watched: RunState): Screen<Stood> {
    this.notes.noteAll(this.known.reads);
    if (run === this.known.run) return this.first.screen;
    let view = this.screens.get(run);
    if (!view) this.screens.set(run, (view = this.viewOf(run, watched)));
    this.notes.noteAll(view.known.reads);
    return view.screen;
  }

  private viewOf(run: RunState, watched: RunState): View {
    const { known, notes } = this;
    const { names, scenes, isElsewhere } = changesBetween(known.run, run, notes);
    const moved = new Set(names.flatMap((name) => this.readersOf(name)));
    if (run.clock !== known.run.clock) for (const node of this.timed()) moved.add(node);
    if (moved.size === 0 && scenes.size === 0 && !isElsewhere) return this.first;
    const before = (node: Node): Before | null => {
      const reads = known.own.get(node);
      return !reads || moved.has(node) || node.layer.scroll || scenes.has(sceneOf(node)) ? null : { stood: this.stoodOf(node), reads };
    };
    const general: SlotName[] = [];
    const standing = notes.sorted(
      (name) => general.push(name),
      () => standingNoted(known.program, notes, watched, before)
    );
    const { screen, own, scrolls } = standing;
    const { still, cuts } = cutUp(standing, known.isOpen, known);
    return new View(notes, { ...known, run, screen, own, scrolls, reads: [...general, ...still], cuts });
  }

  private stoodOf(node: Node): Stood | null {
    this.stoods ??= new Map(this.known.screen.surfaces.flatMap(({ all }) => all.map((one) => [one.node, one] as const)));
    return this.stoods.get(node) ?? null;
  }

  private readersOf(name: SlotName): readonly Node[] {
    if (!this.readers) {
      const readers = new Map<SlotName, Node[]>();
      for (const [node, names] of this.known.own)
        for (const one of names) {
          const list = readers.get(one);
          if (list) list.push(node);
          else readers.set(one, [node]);
        }
      this.readers = readers;
    }
    return this.readers.get(name) ?? [];
  }

  /** Layers that stand where their timeline is. */
  private timed(): Node[] {
    return [...this.known.own].flatMap(([node, names]) => (names.some((name) => name.includes('|heads|')) ? node : []));
  }
}

function sceneOf(node: Node): string {
  let { instance } = node;
  while (instance.outer) instance = instance.outer;
  return instance.scene.scene.id;
}

/** What is another in a run: slots by name, scenes of which all may be, and whether other scenes are on the screen. */
function changesBetween(
  base: RunState,
  run: RunState,
  { fresh, computed }: Notebook
): { names: SlotName[]; scenes: Set<string>; isElsewhere: boolean } {
  // What bindings give may come out as it was.
  const names = [...computed.keys()];
  const scenes = new Set<string>();
  for (const field of ['over', 'focus', 'pressed', 'pointer'] as const) if (base[field] !== run[field]) names.push(field);
  for (const [scene, root] of Object.entries(run.roots)) {
    const old = base.roots[scene];
    if (old === root) continue;
    if (!old || fresh.has(root)) scenes.add(scene);
    else
      for (const kind of RECORDS) {
        const [was, is] = [old[kind], root[kind]] as Record<string, unknown>[];
        if (was === is) continue;
        const keys = [...new Set([...Object.keys(was!), ...Object.keys(is!)])].filter((key) => was![key] !== is![key]);
        names.push(...[...keys, '*'].map((key) => `${scene}|${kind}|${key}`));
      }
  }
  const isElsewhere = base.frame !== run.frame || base.overlays !== run.overlays || Object.keys(base.roots).some((scene) => !run.roots[scene]);
  return { names, scenes, isElsewhere: isElsewhere || names.some(isScroll) };
}

/** One screen as it is looked at. */
class View {
  readonly screen: Screen<Stood>;
  private readonly looked = new Map<Node, Looked>();

  constructor(
    readonly notes: Notebook,
    readonly known: KnownScreen
  ) {
    const { screen, cuts } = known;
    const moves = screen.surfaces.some((surface) => cuts.get(surface)!.length > 0);
    this.screen = moves ? { ...screen, surfaces: screen.surfaces.map((surface) => this.surfaceOf(surface)) } : screen;
  }

  private surfaceOf(surface: Surface<Stood>): Surface<Stood> {
    const cuts = this.known.cuts.get(surface)!;
    if (cuts.length === 0) return surface;
    for (const { moves, layers, scroll } of cuts)
      if (moves)
        for (const { node, stood, names } of layers) this.looked.set(node, new Looked(this, node, stood, names, scroll ? [...names, scroll] : names));
    const all = new Layers(this, cuts).listed;
    const { notes } = this;
    const { scroll } = surface;
    const isScrolled = cuts.some((cut) => cut.scroll !== null);
    return {
      ...surface,
      all,
      tops: NOT_LOOKED_AT,
      get scroll() {
        if (isScrolled) notes.note(scrollOf(surface.scene));
        return scroll;
      },
    };
  }

  of = (node: Node): Looked => this.looked.get(node)!;
}

/** Who looks for what stands where goes through all layers, not from the top down. */
const NOT_LOOKED_AT: readonly Stood[] = new Proxy([], {
  get() {
    throw new Error('Layers are looked at one by one.');
  },
});

/** Asked for where it is of a layer that is not shown. */
const HIDDEN = new Error('It is not shown.');

/** A layer on a screen on which something moves: whoever asks for more than which it is reads where it is. */
class Looked implements Stood {
  constructor(
    private readonly view: View,
    readonly node: Node,
    private readonly stood: Stood | null,
    /** What is read for whether it is shown, and for where it is. */
    private readonly names: readonly SlotName[],
    private readonly placed: readonly SlotName[]
  ) {}

  private get at(): Stood {
    this.view.notes.noteAll(this.placed);
    if (!this.stood) throw HIDDEN;
    return this.stood;
  }

  /** Whether it is shown. */
  get isThere(): boolean {
    this.view.notes.noteAll(this.names);
    return this.stood !== null;
  }

  /** Whether it is shown, and something is so of it. */
  fits(is: (one: Stood) => boolean): boolean {
    try {
      return is(this) && this.isThere;
    } catch (error) {
      if (error === HIDDEN) return false;
      throw error;
    }
  }

  get parent(): Stood | null {
    return this.node.parent && this.view.of(this.node.parent);
  }
  get children(): readonly Stood[] {
    void this.at;
    return this.node.children.map(this.view.of).filter((child) => this.view.notes.test(() => Number(child.isThere)) > 0);
  }
  get x(): number {
    return this.at.x;
  }
  get y(): number {
    return this.at.y;
  }
  get width(): number {
    return this.at.width;
  }
  get height(): number {
    return this.at.height;
  }
  get rotation(): number {
    return this.at.rotation;
  }
  get scale(): number {
    return this.at.scale;
  }
  get anchor(): Point {
    return this.at.anchor;
  }
  get scroll(): Point {
    return this.at.scroll;
  }
  get matrix(): Matrix {
    return this.at.matrix;
  }
}

type Is = (one: Stood) => boolean;

const fits = (one: Stood, is: Is): boolean => (one instanceof Looked ? one.fits(is) : is(one));

/** The layers of a surface: looking for some reads less than going through all. What stands still is looked at as it is. */
class Layers {
  private readonly cuts: readonly (readonly Stood[])[];
  private whole: readonly Stood[] | null = null;

  constructor(
    private readonly view: View,
    cuts: readonly Cut[]
  ) {
    this.cuts = cuts.map(({ moves, layers }) => (moves ? layers.map(({ node }) => view.of(node)) : layers.flatMap(({ stood }) => stood ?? [])));
  }

  private readonly find = (is: Is): Stood | undefined => this.first(this.cuts, (cut) => cut.findIndex((one) => fits(one, is)));

  private readonly findLast = (is: Is): Stood | undefined => this.first(this.cuts.toReversed(), (cut) => cut.findLastIndex((one) => fits(one, is)));

  private first(cuts: readonly (readonly Stood[])[], indexIn: (cut: readonly Stood[]) => number): Stood | undefined {
    for (const cut of cuts) {
      const index = this.view.notes.test(() => indexIn(cut));
      if (index >= 0) return cut[index];
    }
    return undefined;
  }

  private readonly some = (is: Is): boolean => this.find(is) !== undefined;

  private readonly filter = (is: Is): readonly Stood[] => this.cuts.flat().filter((one) => this.view.notes.test(() => Number(fits(one, is))) > 0);

  private all(): readonly Stood[] {
    if (this.whole && !this.view.notes.isTesting) return this.whole;
    const shown = this.filter(() => true);
    if (!this.view.notes.isTesting) this.whole = shown;
    return shown;
  }

  /** As a list of those that are shown. */
  get listed(): readonly Stood[] {
    const { find, findLast, some, filter } = this;
    const own = { find, findLast, some, filter };
    return new Proxy([] as Stood[], {
      get: (_, name) => (name in own ? own[name as keyof typeof own] : Reflect.get(this.all(), name)),
      has: (_, name) => Reflect.has(this.all(), name),
    });
  }
}
