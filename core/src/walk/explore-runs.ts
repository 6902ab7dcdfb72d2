import type { Cue } from '../cues/schemas.ts';
import { readsOf, type Ast, type Value } from '../expression/ast.ts';
import { partsOf } from '../expression/ast.ts';
import { pointerCues } from '../cues/pointer.ts';
import type { Thread } from '../piece/piece.ts';
import { startFrames, type Program } from '../program/program.ts';
import { boundsOf, resolveScreen, type Shown } from '../program/resolve.ts';
import { centerOf } from '../program/geometry.ts';
import { framesPerSecond } from '../run/playhead.ts';
import { advance, begin, nextDeadline } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { leftOver, type Edge, type Exploration, type Exploring, type State } from './exploration.ts';

/**
 * Exploring a piece by running it: every state that is met was really run to, so every route holds. Two runs are one state when
 * nothing that can still matter differs: the pointer and the clock are left out, pending times count from now.
 */

/** States that a piece is explored to by running it: each costs about as much as an event in a run. */
export const RUN_STATES = 3000;
/** The back stack is told apart this deep. */
const BACK_DEPTH = 4;

export const exploringRuns = (program: Program): Exploring => new RunExplorer(program);

class RunExplorer implements Exploring {
  readonly usual = RUN_STATES;
  private readonly runs: RunState[] = [];
  private readonly states: State[] = [];
  private readonly edges: Edge[][] = [];
  private readonly numbers = new Map<string, number>();
  private readonly callers = new Map<string, Set<string>>();
  private readonly reached = new Map<string, number>();
  private readonly leavesFrom = new Set<string>();
  private readonly fired = new Set<string>();
  private readonly usesBack: boolean;
  private readonly values: readonly Value[];
  private cut: string | null = null;
  private moves = 0;

  /** The first state that is not followed yet. */
  private next = 0;
  private most = 0;

  constructor(private readonly program: Program) {
    const threads = [...program.piece.threads.values()];
    this.usesBack = threads.some((thread) =>
      thread.branches.some((branch) => branch.steps.some((step) => step.do === 'go' && step.target.to === 'back'))
    );
    this.values = tellingValues(program, threads);
    for (const frame of startFrames(program)) {
      const begun = begin(program, frame);
      if (begun) this.meet(begun.run, -1, null);
    }
  }

  on(maxStates: number, shouldPause?: (states: number) => boolean): ReturnType<Exploring['on']> {
    this.most = maxStates;
    for (; this.next < this.runs.length; this.next++) {
      if (this.runs.length > maxStates) return 'limit';
      if (shouldPause && this.next % 4 === 3 && shouldPause(this.runs.length)) return 'paused';
      this.follow(this.next);
    }
    return 'end';
  }

  result(): Exploration {
    const { states, moves, edges, callers, reached, leavesFrom, fired } = this;
    const { cut, unfollowed } = leftOver(states.length, this.next, this.most);
    return { cut: cut ?? this.cut, states, moves, edges, callers, reached, backFrom: new Set(), leavesFrom, fired, unfollowed, isPlain: false };
  }

  private follow(at: number): void {
    const run = this.runs[at]!;
    for (const event of this.eventsIn(run)) {
      const next = advance(this.program, run, event);
      this.moves++;
      const threads = next.reports.flatMap((report) => report.fired.map((fired) => fired.thread));
      for (const thread of threads) this.fired.add(thread);
      if (next.reports.some((report) => report.effects.some((effect) => effect.type === 'open' && effect.tab === 'same')))
        this.leavesFrom.add(run.frame);
      const to = this.meet(next.run, at, event);
      if (next.run.frame !== run.frame) this.callers.set(next.run.frame, (this.callers.get(next.run.frame) ?? new Set()).add(run.frame));
      if (to !== at) this.edges[at]!.push({ to, event, threads });
    }
  }

  private meet(run: RunState, parent: number, event: RunEvent | null): number {
    const still: RunState = { ...run, pointer: null, over: [], pressed: null, clicked: null, focus: null };
    const key = this.keyOf(still);
    const old = this.numbers.get(key);
    if (old !== undefined) {
      if (this.usesBack && this.runs[old]!.back.join() !== run.back.join()) this.cut ??= `the back stack was told apart ${BACK_DEPTH} deep`;
      return old;
    }
    const number = this.runs.length;
    this.numbers.set(key, number);
    this.runs.push(still);
    this.states.push({ frame: run.frame, timers: 0, parent, event });
    this.edges.push([]);
    if (!this.reached.has(run.frame)) this.reached.set(run.frame, number);
    return number;
  }

  private keyOf(run: RunState): string {
    const { clock } = run;
    const fps = framesPerSecond(this.program);
    const roots = Object.values(run.roots)
      .map((root) => [
        root.scene,
        sorted(root.states),
        sorted(root.changes),
        sorted(root.flags),
        sorted(root.values),
        sorted(root.variables),
        Object.entries(root.heads).map(([instance, head]) => [
          instance,
          head.playing,
          Math.floor(head.at + (head.playing ? ((clock - head.since) * fps) / 1000 + 1e-6 : 0)),
          Math.min(2, head.visits),
        ]),
        sorted(root.scroll),
        sorted(root.media),
        root.timers.map((timer) => [timer.thread, timer.instance, timer.due - clock]),
      ])
      .sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));
    const activities = run.activities.map(({ id: _id, due, ...rest }) => ({ ...rest, due: due === Infinity ? null : due - clock }));
    return JSON.stringify([
      run.frame,
      this.usesBack ? run.back.slice(-BACK_DEPTH) : [],
      run.overlays,
      sorted(run.variables),
      run.pad,
      activities,
      roots,
    ]);
  }

  // ── what can be done ─────────────────────────────────────────────────────────

  private *eventsIn(run: RunState): Iterable<RunEvent> {
    const screen = resolveScreen(this.program, run);
    const shown = screen.surfaces.flatMap((surface) => surface.all);
    const cues = this.liveCues(run, shown);
    for (const one of shown) yield* this.eventsOn(one, shown);
    if (cues.scenes.some((cue) => cue.type === 'click')) yield { type: 'click', layer: null };
    for (const cue of unique(cues.scenes.filter((one) => one.type === 'swipe'))) yield { type: 'swipe', layer: null, direction: cue.direction };
    if (cues.all.some((cue) => cue.type === 'scroll' || cue.type === 'in view'))
      for (const y of [0, 1e6]) yield { type: 'scroll', layer: null, x: 0, y };
    for (const cue of unique(cues.all.filter((one) => one.type === 'key'))) yield { type: 'key', key: cue.key };
    for (const cue of unique(cues.all.filter((one) => one.type === 'pad'))) yield { type: 'pad', button: cue.button };
    for (const cue of unique(cues.all.filter((one) => one.type === 'signal'))) yield { type: 'signal', signal: cue.signal };
    const due = nextDeadline(this.program, run);
    if (due !== null && due !== Infinity) yield { type: 'wait', ms: Math.max(0, due - run.clock) };
  }

  private liveCues(run: RunState, shown: readonly Shown[]): { scenes: Cue[]; all: Cue[] } {
    const live = (threads: readonly Thread[]) => threads.filter((thread) => thread.enabled).map((thread) => thread.cue);
    const instances = shown.flatMap((one) => (one.node.inside ? [one.node.inside.scene] : []));
    const roots = Object.keys(run.roots).flatMap((scene) => this.program.scenes.get(scene) ?? []);
    const scenes = [...[...roots, ...instances].flatMap((scene) => live(scene.threads)), ...live(this.program.threads)];
    return { scenes, all: [...shown.flatMap((one) => live(one.node.item.threads)), ...scenes] };
  }

  private *eventsOn({ node, x: _x }: Shown, all: readonly Shown[]): Iterable<RunEvent> {
    const { key: layer } = node;
    const cues = node.item.threads.filter((thread) => thread.enabled).map((thread) => thread.cue);
    const { field, drag } = node.layer;
    const own = new Set(cues.map((cue) => cue.type));
    const part = new Set(node.inside?.scene.threads.map((thread) => thread.cue.type));
    const clicked = own.has('click') || own.has('press') || own.has('release') || part.has('click');
    if (clicked || field?.kind === 'checkbox' || field?.kind === 'switch') yield { type: 'click', layer };
    if (own.has('double click')) yield { type: 'double-click', layer };
    if (own.has('long press')) yield { type: 'long-press', layer };
    if (own.has('hover') || own.has('leave')) yield { type: 'hover', layer };
    if (own.has('focus') || own.has('blur')) yield { type: 'focus', layer };
    for (const cue of cues) if (cue.type === 'swipe') yield { type: 'swipe', layer, direction: cue.direction };
    if (drag && [...own].some((type) => pointerCues.has(type))) yield* this.drags(node.key, cues, all);
    if (field && field.kind !== 'checkbox' && field.kind !== 'switch')
      for (const value of this.valuesFor(field)) yield { type: 'value', layer, value };
    if (
      (node.layer.type === 'video' || node.layer.type === 'sound') &&
      !node.layer.media?.loop &&
      cues.some((cue) => cue.type === 'media' && cue.what === 'ended')
    )
      yield { type: 'media', layer, what: 'ended' };
  }

  /** To every layer that waits for a drop, and a little way in each direction. */
  private *drags(layer: string, cues: readonly Cue[], all: readonly Shown[]): Iterable<RunEvent> {
    const from = all.find((shown) => shown.node.key === layer)!;
    const begin = centerOf(boundsOf(from));
    for (const cue of cues) {
      if (cue.type !== 'drop' || !cue.on) continue;
      const target = all.find((shown) => shown.node.key === cue.on || shown.node.key.endsWith(`/${cue.on}`));
      if (!target) continue;
      const end = centerOf(boundsOf(target));
      yield { type: 'drag', layer, dx: end.x - begin.x, dy: end.y - begin.y };
    }
    const bounds = from.node.layer.drag?.bounds;
    yield { type: 'drag', layer, dx: bounds?.right ?? 40, dy: bounds?.bottom ?? 40 };
    yield { type: 'drag', layer, dx: bounds?.left ?? -40, dy: bounds?.top ?? -40 };
  }

  /** One value for each class that conditions can tell apart. */
  private *valuesFor(field: {
    readonly kind: string;
    readonly min?: number;
    readonly max?: number;
    readonly options?: readonly string[];
  }): Iterable<Value> {
    if (field.kind === 'choice') yield* field.options ?? [];
    else if (field.kind === 'text') yield* new Set(['', 'abc', ...this.values.filter((value) => typeof value === 'string')]);
    else {
      const near = this.values.flatMap((value) => (typeof value === 'number' ? [value - 1, value, value + 1] : []));
      const [min, max] = [field.min ?? 0, field.max ?? Math.max(10, ...near)];
      yield* new Set([min, max, ...near.filter((value) => value >= min && value <= max)].slice(0, 12));
    }
  }
}

const sorted = (record: Readonly<Record<string, unknown>>) => Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1));

function unique<T extends Cue>(cues: readonly T[]): T[] {
  return [...new Map(cues.map((cue) => [JSON.stringify(cue), cue])).values()];
}

/** The values that conditions and bindings compare with. */
function tellingValues(program: Program, threads: readonly Thread[]): Value[] {
  const found = new Set<Value>();
  const visit = (ast: Ast) => {
    if (ast.k === 'value') found.add(ast.value);
    partsOf(ast).forEach(visit);
  };
  const read = (stored: string | undefined) => {
    const parsed = stored === undefined ? null : program.parse(stored);
    if (parsed?.ok && readsOf(parsed.value).size) visit(parsed.value);
  };
  for (const thread of threads) for (const branch of thread.branches) read(branch.if);
  for (const layer of program.piece.layers.values()) for (const stored of Object.values(layer.bindings ?? {})) read(stored);
  return [...found];
}
