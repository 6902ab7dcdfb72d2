import type { Value } from '../expression/ast.ts';
import { textParts } from '../expression/text.ts';
import { fitsOccasion, waitOf, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import type { Occasion } from '../vocabulary/occasions.ts';
import type { Thread } from '../piece/piece.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import { placeOf, variableKey, type Binding } from '../program/binding.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Instance, Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { isEnabled, isSelected, isShown, stateOf } from './resolve.ts';
import { emptyRoot, findPlace, liveRootsOf, nameOfState, rootOfKey, valueOfField, valueOfVariable, type Place, valueIn } from './environment.ts';
import type { Stepped, Took } from '../vocabulary/stepped.ts';
import type { Store } from './store.ts';
import type { Activity, Effect, Fired, Report, RootRun, RunEvent, RunState, StepOutcome, Timer, WhyNot } from './state.ts';

/** A thread where it stands: which scene on the screen, which instance of it, which layer. */
export interface Call {
  readonly thread: Thread;
  readonly root: string | null;
  readonly instance: Instance;
  readonly node: Node | null;
}

/** Something inside the piece that threads can be cued by; it waits until what caused it has run to its end. */
interface Happening {
  readonly cause: string;
  readonly calls: () => readonly Call[];
}

/** What has happened so far in answer to one event: the report is built while its threads run. */
interface OpenReport {
  readonly event: RunEvent;
  readonly cause: string | undefined;
  layer: string | null;
  readonly fired: { thread: string; branch: number; steps: StepOutcome[] }[];
  readonly whyNot: WhyNot[];
  readonly effects: Effect[];
}

/** Branches of which a step did something, by `branchKey`: only to the run itself, or something to be seen or heard besides. */
export type Acted = Map<string, 'inside' | 'outside'>;

/** A branch of a thread by name. */
export const branchKey = (thread: string, branch: number): string => `${thread} ${branch}`;

/** More than this many things set off by one event, or waiting to be, is an endless loop. */
export const MOST_HAPPENINGS = 1000;
/** So are more steps than this in answer to one event, however they are spread over threads. */
export const MOST_STEPS = 20_000;
/** The signs that a variable of text holds at most, as in the document. */
const MOST_TEXT = 2000;

/** What a runner leaves to others, so that they may lean on it: steps, playheads as scenes come and go, why nothing happened. */
export interface Duties {
  readonly runStep: (runner: Runner, call: Call, step: Step) => Stepped;
  readonly enterHeads: (runner: Runner, scene: string, expansion: Expansion) => void;
  readonly restingHeads: (runner: Runner, root: RootRun) => RootRun['heads'];
  readonly syncPresence: (runner: Runner, scene: string) => void;
  /** Whether texts are computed: they are only looked at, and nothing that happens depends on them. */
  readonly writesTexts: boolean;
  /** Takes note of what a step did, where somebody wants to know. */
  readonly noteStep?: (runner: Runner, call: Call, branch: number, step: Step, isChanged: boolean, effects: readonly Effect[]) => void;
  readonly explainBranches: (program: Program, before: RunState, call: Call) => readonly WhyNot[];
}

/**
 * Takes a run from one outside event to its end. Holds the state while threads change it: every change of it that others can be
 * cued by goes through a method here, so that a cue fires however its cause came about.
 */
export class Runner {
  readonly reports: Report[] = [];
  private open: OpenReport;
  private readonly queue: Happening[] = [];
  private happenings = 0;
  private depth = 0;
  private steps = 0;
  private recent: string[] = [];
  private stopped = false;
  /** The run as it was when the event, or the thing inside that threads now answer to, happened. */
  before: RunState;
  /** Where the person was when the event happened, and whether it leaves a trace for *back*. */
  readonly origin: string;
  leavesTrace = true;

  constructor(
    readonly program: Program,
    readonly store: Store,
    event: RunEvent,
    private readonly duties: Duties,
    readonly acted: Acted = new Map()
  ) {
    this.before = store.run;
    this.origin = store.run.frame;
    this.open = { event, cause: undefined, layer: null, fired: [], whyNot: [], effects: [] };
  }

  get run(): RunState {
    return this.store.run;
  }

  /** Another one of the same piece, that goes on from here by itself; or from a run that one of them gave. */
  beside(run?: RunState, event: RunEvent = { type: 'wait', ms: 0 }): Runner {
    return new Runner(this.program, this.store.fork(run), event, this.duties, this.acted);
  }

  /** Sets fields of the run itself. */
  put(change: Parameters<Store['put']>[0]): void {
    this.store.put(change);
  }

  // ── reports ────────────────────────────────────────────────────────────────

  begin(event: RunEvent, cause?: string): void {
    this.flush();
    this.open = { event, cause, layer: null, fired: [], whyNot: [], effects: [] };
    this.before = this.run;
  }

  at(layer: string | null): void {
    this.open.layer = layer;
  }

  effect(effect: Effect): void {
    this.open.effects.push(effect);
  }

  why(whyNot: WhyNot): void {
    this.open.whyNot.push(whyNot);
  }

  private flush(): void {
    const { event, cause, layer, fired, whyNot, effects } = this.open;
    if (cause !== undefined && fired.length === 0 && effects.length === 0 && whyNot.length === 0) return;
    if (fired.length === 0 && whyNot.length === 0 && effects.length === 0 && SILENT.has(event.type)) return;
    this.reports.push({ clock: this.run.clock, event, ...(cause !== undefined && { cause }), layer, fired: fired as Fired[], whyNot, effects });
  }

  /** Runs what is still queued and gives the end of it all. */
  finish(): { run: RunState; reports: readonly Report[] } {
    this.drain();
    this.flush();
    this.open = { event: this.open.event, cause: 'end', layer: null, fired: [], whyNot: [], effects: [] };
    if (this.run.frame !== this.origin && this.leavesTrace) this.store.pushBack(this.origin, MOST_BACK);
    return { run: this.run, reports: this.reports };
  }

  // ── threads ────────────────────────────────────────────────────────────────

  /** Runs threads top to bottom; in each, the first branch whose condition held when the event happened. */
  fire(calls: readonly Call[]): void {
    for (const call of calls) {
      const branch = this.chooseBranch(call);
      if (branch === null) continue;
      const fired = { thread: call.thread.id, branch, steps: [] as StepOutcome[] };
      this.open.fired.push(fired);
      this.recent.push(call.thread.id);
      if (call.thread.branches[branch]!.steps.length === 0)
        this.why({ code: 'no-steps', sentence: 'The thread has no step yet.', thread: call.thread.id });
      this.runSteps(call, branch, 0, fired.steps);
    }
  }

  private chooseBranch(call: Call): number | null {
    const { branches } = call.thread;
    for (const [i, branch] of branches.entries()) {
      if (branch.if === undefined) return i;
      const value = this.tryExpression(this.before, call.instance, branch.if, call.thread.id);
      if (value === true) return i;
    }
    for (const why of this.duties.explainBranches(this.program, this.before, call)) this.why(why);
    return null;
  }

  /** Runs steps from one on. Those joined by *with* start together; the next ones start when all of them have ended. */
  private runSteps(call: Call, branch: number, from: number, outcomes: StepOutcome[]): void {
    const { steps } = call.thread.branches[branch]!;
    let at = from;
    let here = call;
    while (at < steps.length && !this.stopped) {
      let took: Took = 0;
      let lasting = false;
      do {
        if (++this.steps > MOST_STEPS) return this.stopEndless(this.open.event);
        const step = steps[at]!;
        const [before, asked] = [this.run, this.open.effects.length];
        const stepped = this.duties.runStep(this, here, step);
        outcomes.push({ sentence: stepped.sentence, done: stepped.done });
        this.duties.noteStep?.(this, here, branch, step, this.run !== before, this.open.effects.slice(asked));
        if (stepped.whyNot) this.why({ ...stepped.whyNot, thread: call.thread.id, ...(call.node && { layer: call.node.key }) });
        took = longer(took, stepped.took ?? 0);
        if (stepped.movedTo !== undefined) here = { ...here, root: stepped.movedTo };
        lasting ||= step.lasting === true;
        at++;
      } while (at < steps.length && steps[at]!.with === true);
      if (at < steps.length && took !== 0) {
        this.later(here, branch, at, took, lasting);
        return;
      }
    }
  }

  private later(call: Call, branch: number, next: number, took: Took, lasting: boolean): void {
    // Another thread may have left the scene meanwhile; what would wait in it ended with it.
    if (call.root !== null && !lasting && !this.liveRoots().includes(call.root)) return;
    const activity: Activity = {
      id: this.run.count,
      root: call.root ?? '',
      instance: call.instance.key,
      thread: call.thread.id,
      branch,
      next,
      due: typeof took === 'number' ? this.run.clock + took : Infinity,
      head: typeof took === 'number' ? null : took,
      lasting: lasting || call.root === null,
      from: call.node?.key ?? null,
    };
    this.store.startSteps(activity);
  }

  /** Goes on with steps that waited. */
  resume(activity: Activity): void {
    this.store.takeSteps(activity.id);
    const call = this.callOf(activity);
    if (!call || !call.thread.branches[activity.branch]) return;
    const fired = { thread: activity.thread, branch: activity.branch, steps: [] as StepOutcome[] };
    this.open.fired.push(fired);
    this.at(activity.from);
    this.runSteps(call, activity.branch, activity.next, fired.steps);
  }

  private callOf(activity: Activity): Call | null {
    const thread = this.program.piece.threads.get(activity.thread);
    if (!thread) return null;
    const node = activity.from === null ? null : (findPlace(this.program, this.run, activity.from)?.node ?? null);
    const scene = node ? this.program.piece.layers.get(node.key.split('/', 1)[0]!)?.scene : thread.on === 'scene' ? thread.owner : activity.root;
    const program = this.program.scenes.get(scene ?? '') ?? this.program.scenes.get(this.run.frame);
    const instance = program && (expand(this.program, program).instances.get(activity.instance) ?? expand(this.program, program).instances.get(''));
    return instance ? { thread, root: activity.root || null, instance, node } : null;
  }

  /** Queues what threads can be cued by; they run before the next outside event. */
  happen(cause: string, calls: () => readonly Call[]): void {
    this.queue.push({ cause, calls });
  }

  /** Runs what is queued until nothing is left, or it is clear that there is no end to it. */
  drain(): void {
    const { event } = this.open;
    for (let at = 0; at < this.queue.length; at++) {
      const next = this.queue[at]!;
      if (this.stopped) break;
      if (++this.happenings > MOST_HAPPENINGS || this.queue.length - at > MOST_HAPPENINGS) {
        this.stopEndless(event);
        break;
      }
      // A scene that was left meanwhile hears nothing any more.
      const live = this.liveRoots();
      const calls = next.calls().filter((call) => call.root === null || live.includes(call.root));
      if (calls.length === 0) continue;
      this.begin(event, next.cause);
      this.at(calls[0]!.node?.key ?? null);
      this.fire(calls);
      this.settle();
    }
    this.queue.length = 0;
  }

  /** Runs what is queued before the event itself goes on; false where nothing was. */
  catchUp(): boolean {
    if (this.queue.length === 0) return false;
    const { event } = this.open;
    this.drain();
    this.begin(event);
    return true;
  }

  /** What was done so far was done by itself; what comes now finds the run as that has left it. */
  next(): void {
    const { event } = this.open;
    this.settle();
    this.drain();
    this.begin(event);
  }

  private stopEndless(event: RunEvent): void {
    if (this.stopped) return;
    this.stopped = true;
    this.begin(event, 'an endless loop');
    // Where no thread has fired, bindings did it.
    for (const thread of new Set(this.recent.slice(-8)))
      this.why({ code: 'endless-loop', sentence: `Set off again and again without end; stopped after ${MOST_HAPPENINGS}.`, thread });
  }

  // ── the scenes on the screen ────────────────────────────────────────────────

  expansion(scene: string): Expansion {
    return expand(this.program, this.program.scenes.get(scene)!);
  }

  /** Ids of the scenes on the screen, from back to front. */
  liveRoots(): string[] {
    return liveRootsOf(this.program, this.run);
  }

  root(scene: string): RootRun | undefined {
    return this.run.roots[scene];
  }

  setRoot(scene: string, change: Partial<RootRun>): void {
    this.store.setRoot(scene, change);
  }

  find(key: string): Place | null {
    return findPlace(this.program, this.run, key);
  }

  /** The place that a path means for a thread. */
  placeFor(call: Call, path: string): Place | null {
    return this.find(placeOf(this.program, call.instance, path));
  }

  /** Puts a scene on the screen: as it was left where it remembers, else as it begins. */
  enterRoot(scene: string): void {
    const program = this.program.scenes.get(scene);
    if (!program) return;
    const kept = this.run.roots[scene];
    this.store.enter(kept ? { ...kept, entered: this.run.clock, timers: [] } : emptyRoot(scene, this.run.clock));
    const expansion = this.expansion(scene);
    if (expansion.bindings.length) this.bindAll(scene, expansion);
    this.duties.enterHeads(this, scene, expansion);
    this.startTimers(scene, expansion);
    for (const instance of expansion.instances.values()) this.stateEntered(scene, instance);
  }

  /** Takes a scene off the screen. What it was like is forgotten unless it remembers. */
  leaveRoot(scene: string): void {
    const root = this.run.roots[scene];
    if (!root) return;
    const remembers = this.program.scenes.get(scene)?.scene.onReturn === 'remember';
    const kept = remembers ? { timers: [], media: {}, present: {}, heads: this.duties.restingHeads(this, root) } : null;
    const playing = this.expansion(scene).timed.filter((node) => root.media[node.key] === 'playing');
    const focus = this.run.focus !== null && this.sceneOfNode(this.run.focus) === scene ? null : this.run.focus;
    this.store.leave(scene, kept);
    this.store.endSteps(scene);
    if (focus !== this.run.focus) this.put({ focus });
    for (const { key } of playing) this.effect({ type: 'media', node: key, do: 'pause' });
  }

  sceneOfNode(key: string): string | undefined {
    return this.program.piece.layers.get(key.split('/', 1)[0]!)?.scene;
  }

  private startTimers(scene: string, expansion: Expansion): void {
    const timers: Timer[] = [];
    for (const call of this.callsIn(scene, expansion, ENTERED)) {
      timers.push(this.timer(call, null));
    }
    if (timers.length) this.setRoot(scene, { timers });
  }

  private timer({ thread, instance }: Call, state: string | null): Timer {
    return { due: this.run.clock + waitOf(thread.cue), thread: thread.id, instance: instance.key, state };
  }

  /** Every thread that waits for something in a scene: those of its layers in the order of painting, then those of its instances, the scene itself last. */
  callsIn(scene: string, expansion: Expansion, occasion: Occasion): Call[] {
    return this.callsOf(scene, expansion, (cue) => fitsOccasion(cue, occasion));
  }

  private callsOf(scene: string, expansion: Expansion, fits: (cue: Cue) => boolean): Call[] {
    const found: Call[] = [];
    for (const node of expansion.threaded)
      for (const thread of node.item.threads)
        if (thread.enabled && fits(thread.cue)) found.push({ thread, root: scene, instance: node.instance, node });
    const instances = [...expansion.instances.values()];
    for (const instance of [...instances.slice(1), instances[0]!])
      for (const thread of instance.scene.threads)
        if (thread.enabled && fits(thread.cue)) found.push({ thread, root: scene, instance, node: instance.placement });
    return found;
  }

  /** The same for all scenes on the screen and the piece, which comes last. */
  callsEverywhere(occasion: Occasion): Call[] {
    return [...this.liveRoots().flatMap((scene) => this.callsIn(scene, this.expansion(scene), occasion)), ...this.pieceCalls(occasion)];
  }

  pieceCalls(occasion: Occasion): Call[] {
    const threads = this.program.threads.filter((thread) => thread.enabled && fitsOccasion(thread.cue, occasion));
    const frame = threads.length ? this.program.scenes.get(this.run.frame) : undefined;
    if (!frame) return [];
    const instance = expand(this.program, frame).instances.get('')!;
    return threads.map((thread) => ({ thread, root: null, instance, node: null }));
  }

  /** After threads have run: placements and media that came into view or went out of it start and stop. */
  settle(): void {
    for (const scene of this.liveRoots()) this.duties.syncPresence(this, scene);
  }

  // ── changes that others can be cued by ──────────────────────────────────────

  setState({ root, instance }: Place, state: string): void {
    const nested = [...this.expansion(root.scene).instances.values()].filter((one) => isWithin(one, instance));
    const states = nested.map((one) => stateOf(root, one));
    this.store.set(root.scene, 'states', instance.key, state);
    nested.forEach((one, i) => {
      const now = stateOf(this.run.roots[root.scene]!, one);
      if (now !== states[i]) this.stateChanged(root.scene, one, states[i]!);
    });
    this.rereadAround(root.scene, instance);
  }

  private stateChanged(scene: string, instance: Instance, old: string | null): void {
    this.store.endTimers(scene, instance.key);
    if (old !== null) this.stateCue(scene, instance, 'left', old);
    this.stateEntered(scene, instance);
    this.reread(`${instance.key || scene}.state`);
  }

  private stateEntered(scene: string, instance: Instance): void {
    const [timed, told] = (['time', 'state'] as const).map((type) => this.stateCalls(scene, instance, type)) as [Call[], Call[]];
    // Where nobody waits for it, it is no matter which one it is.
    if (timed.length === 0 && told.length === 0) return;
    const state = stateOf(this.run.roots[scene]!, instance);
    this.stateCue(scene, instance, 'entered', state, told);
    if (state === null) return;
    const timers = timed.filter(({ thread }) => fitsOccasion(thread.cue, { type: 'time', state })).map((call) => this.timer(call, state));
    if (timers.length) this.setRoot(scene, { timers: [...this.run.roots[scene]!.timers, ...timers] });
  }

  /** Threads about an instance's states: the scene's own, those of its layers, and those of the placement that shows it. */
  private stateCalls(scene: string, instance: Instance, type: 'state' | 'time'): Call[] {
    const isAbout = (cue: Cue) => waitsFor(cue, type) && !(type === 'time' && fitsOccasion(cue, ENTERED));
    return this.callsOf(scene, this.expansion(scene), isAbout).filter((call) => {
      if (call.thread.on === 'scene') return call.instance === instance;
      return type === 'state' ? call.node === instance.placement && instance.placement !== null : call.instance === instance;
    });
  }

  private stateCue(
    scene: string,
    instance: Instance,
    change: 'entered' | 'left',
    state: string | null,
    told = this.stateCalls(scene, instance, 'state')
  ): void {
    const calls = told.filter(({ thread }) => fitsOccasion(thread.cue, { type: 'state', change, state }));
    if (calls.length === 0) return;
    const name = instance.scene.states.find(({ id }) => id === state)?.name ?? instance.scene.scene.name;
    this.happen(`${instance.scene.scene.name}: ${change === 'entered' ? 'entered' : 'left'} ${name}`, () => calls);
  }

  makeSelected(place: Place & { node: Node }, on: boolean, byChoice = false): boolean {
    const { root, node } = place;
    if (isSelected(root, node) === on) return false;
    this.store.set(root.scene, 'flags', `${node.key}.selected`, on);
    this.selectedChanged(root.scene, node, on, byChoice);
    return isSelected(this.run.roots[root.scene]!, node) === on;
  }

  private selectedChanged(scene: string, node: Node, on: boolean, byChoice: boolean): void {
    this.nodeCue(scene, node, { type: 'selected', on }, `${node.layer.name} is ${on ? 'selected' : 'unselected'}`);
    const { field, choice } = node.layer;
    if (field && (field.kind === 'checkbox' || field.kind === 'switch')) {
      this.nodeCue(scene, node, { type: 'change' }, `${node.layer.name} changed`);
      if (field.variable) this.setVariableFrom(node.instance, field.variable, on);
      this.reread(`${node.key}.value`);
    }
    this.reread(`${node.key}.selected`);
    if (choice !== undefined && !byChoice) this.keepChoice(scene, node, choice, on);
  }

  /** Of a choice group at most one is selected; the variable that mirrors it says which. */
  private keepChoice(scene: string, node: Node, choice: string, on: boolean): void {
    const variable = node.instance.scene.scene.choices?.[choice]?.variable;
    const others = this.expansion(scene).nodes.filter((other) => other !== node && other.instance === node.instance && other.layer.choice === choice);
    if (on) for (const other of others) this.makeSelected({ ...this.find(other.key)!, node: other }, false, true);
    const root = this.run.roots[scene]!;
    const none = variable === undefined || on || others.some((other) => isSelected(root, other)) ? null : noneOf(this.program, variable);
    const value = on ? choiceValue(node) : none;
    if (variable !== undefined && value !== null) this.setVariableFrom(node.instance, variable, value);
  }

  setEnabled(place: Place & { node: Node }, on: boolean): boolean {
    const { root, node } = place;
    if (isEnabled(root, node) === on) return false;
    this.store.set(root.scene, 'flags', `${node.key}.enabled`, on);
    this.enabledChanged(root.scene, node, on);
    return true;
  }

  private enabledChanged(scene: string, node: Node, on: boolean): void {
    this.nodeCue(scene, node, { type: 'enabled', on }, `${node.layer.name} is ${on ? 'enabled' : 'disabled'}`);
    this.rereadInside(scene, node, 'enabled');
  }

  setShown(place: Place & { node: Node }, on: boolean): boolean {
    const { root, node } = place;
    if (isShown(this.program, this.run, root, node, false) === on) return false;
    this.store.set(root.scene, 'flags', `${node.key}.shown`, on);
    this.rereadInside(root.scene, node, 'shown');
    return true;
  }

  change(place: Place & { node: Node }, numbers: Partial<Record<'x' | 'y' | 'width' | 'height' | 'rotation' | 'scale' | 'opacity', number>>): void {
    const { root, node } = place;
    this.store.set(root.scene, 'changes', node.key, { ...root.changes[node.key], ...numbers });
    if ('x' in numbers) this.reread(`${node.key}.x`);
    if ('y' in numbers) this.reread(`${node.key}.y`);
  }

  /** Puts a value into a field, as a person or a variable does. */
  setField(place: Place & { node: Node }, value: Value): boolean {
    const { root, node } = place;
    const { field } = node.layer;
    if (!field) return false;
    if (field.kind === 'checkbox' || field.kind === 'switch') return this.makeSelected(place, value === true);
    const fitted = fitField(field, value);
    if (fitted === undefined || valueOfField(root, node) === fitted) return false;
    this.store.set(root.scene, 'values', node.key, fitted);
    this.nodeCue(root.scene, node, { type: 'change' }, `${node.layer.name} changed`);
    if (field.variable) this.setVariableFrom(node.instance, field.variable, fitted);
    this.reread(`${node.key}.value`);
    return true;
  }

  /** Sets a variable as a thread, a field or a choice of an instance means it. */
  setVariableFrom(instance: Instance, id: string, value: Value): string | null {
    return this.setVariable(id, variableKey(this.program, instance, id), value);
  }

  /** Sets a variable; gives a sentence where the value does not fit it. */
  setVariable(id: string, key: string, value: Value): string | null {
    const variable = this.program.variables.get(id);
    if (!variable) return 'This variable is not there.';
    const fitted = fitVariable(variable, value);
    if (typeof fitted === 'object') return fitted.why;
    if (valueOfVariable(this.program, this.run, id, key) === fitted) return null;
    if (variable.scene === null) this.store.setVariable(key, fitted);
    else {
      const scene = rootOfKey(this.program, key);
      const root = this.run.roots[scene];
      if (!root) return `${variable.name} belongs to a scene that is not on the screen.`;
      this.store.set(scene, 'variables', key, fitted);
    }
    this.happen(`${variable.name} changed`, () =>
      this.callsEverywhere({ type: 'variable', variable: id }).filter(({ instance }) => variableKey(this.program, instance, id) === key)
    );
    this.mirror(id, key, fitted);
    this.reread(key);
    return null;
  }

  /** Fields and choice groups that mirror a variable follow it. */
  private mirror(id: string, key: string, value: Value): void {
    for (const scene of this.liveRoots())
      for (const node of this.expansion(scene).nodes) {
        const { field, choice } = node.layer;
        const follows = field?.variable === id || (choice !== undefined && node.instance.scene.scene.choices?.[choice]?.variable === id);
        if (!follows || variableKey(this.program, node.instance, id) !== key) continue;
        const place = { ...this.find(node.key)!, node };
        if (field?.variable === id) this.setField(place, value);
        else this.makeSelected(place, choiceValue(node) === value, true);
      }
  }

  /** Queues the threads of a node that wait for something. */
  nodeCue(scene: string, node: Node, occasion: Occasion, cause: string): void {
    const threads = node.item.threads.filter((thread) => thread.enabled && fitsOccasion(thread.cue, occasion));
    if (threads.length) this.happen(cause, () => threads.map((thread) => ({ thread, root: scene, instance: node.instance, node })));
  }

  // ── bindings ────────────────────────────────────────────────────────────────

  /** Computes an expression, which may be one of a thread; what goes wrong is reported and gives null. */
  tryExpression(run: RunState, instance: Instance, stored: string, thread?: string): Value | null {
    const given = valueIn(this.program, run, instance, stored);
    if (given.ok) return given.value;
    this.why({ code: 'expression-error', fault: given.error.code, sentence: given.error.sentence, ...(thread !== undefined && { thread }) });
    return null;
  }

  /** Computes again what reads a thing, and nothing else. */
  reread(key: string): void {
    for (const scene of this.liveRoots()) {
      const readers = this.expansion(scene).readers.get(key);
      if (readers) for (const binding of readers) this.bind(scene, binding);
    }
  }

  private rereadInside(scene: string, node: Node, property: 'enabled' | 'shown'): void {
    this.reread(`${node.key}.${property}`);
    if (this.expansion(scene).readers.size) for (const child of node.children) this.rereadInside(scene, child, property);
  }

  /** After a change of state: what is read of the layers in it. */
  private rereadAround(scene: string, instance: Instance): void {
    const { readers, nodes } = this.expansion(scene);
    if (readers.size === 0) return;
    for (const node of nodes)
      if (isWithin(node.instance, instance))
        for (const property of ['shown', 'x', 'y'] as const) if (readers.has(`${node.key}.${property}`)) this.reread(`${node.key}.${property}`);
  }

  private bindAll(scene: string, expansion: Expansion): void {
    for (const binding of expansion.bindings) this.bind(scene, binding, true);
  }

  private bind(scene: string, binding: Binding, isFirst = false): void {
    const root = this.run.roots[scene];
    if (!root || this.stopped || (binding.what === 'text' && !this.duties.writesTexts)) return;
    if (isFirst) return this.store.bind(scene, binding.key, () => this.compute(binding));
    const value = this.compute(binding);
    if (root.bound[binding.key] === value) return;
    // What is bound in a circle reads itself anew for ever, each time within the time before.
    if (++this.happenings > MOST_HAPPENINGS * 20 || this.depth > MOST_DEPTH) return this.stopEndless(this.open.event);
    const { node, instance, what } = binding;
    const was = before(root, node, instance, what);
    this.store.set(scene, 'bound', binding.key, value);
    this.depth++;
    const now = this.run.roots[scene]!;
    if (node && what === 'selected' && isSelected(now, node) !== was) this.selectedChanged(scene, node, isSelected(now, node), false);
    if (node && what === 'enabled' && isEnabled(now, node) !== was) this.enabledChanged(scene, node, isEnabled(now, node));
    if (node && what === 'shown') this.rereadInside(scene, node, 'shown');
    if (node && (what === 'x' || what === 'y')) this.reread(`${node.key}.${what}`);
    const bound = what === 'state' ? node?.inside : what === 'stateIs' ? instance : null;
    if (bound && nameOfState(now, bound) !== was) this.stateChanged(scene, bound, bound.scene.states.find(({ name }) => name === was)?.id ?? null);
    this.depth--;
  }

  private compute(binding: Binding): Value | null {
    if (binding.what !== 'text') return this.tryExpression(this.run, binding.instance, binding.source);
    return textParts(binding.source)
      .map((part) => part.text ?? wordsOf(this.tryExpression(this.run, binding.instance, part.expression!)))
      .join('');
  }
}

/** So deep bindings may read what other bindings give: each takes some of the stack. */
const MOST_DEPTH = 400;

/** A scene was entered: those begin to wait that name no state. */
const ENTERED: Occasion = { type: 'time', state: null };

const SILENT: ReadonlySet<RunEvent['type']> = new Set(['move', 'leave', 'press', 'wait', 'focus', 'scroll', 'release', 'media']);

/** *Back* goes no further than this. */
export const MOST_BACK = 200;

const wordsOf = (value: Value | null): string =>
  value === null
    ? '?'
    : typeof value === 'number'
      ? String(Math.round(value * 1e9) / 1e9)
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : value;

const longer = (a: Took, b: Took): Took => (typeof a !== 'number' ? a : typeof b !== 'number' ? b : Math.max(a, b));

export const isWithin = (instance: Instance, around: Instance): boolean =>
  instance === around || around.key === '' || instance.key.startsWith(`${around.key}/`);

/** What the variable of a choice group is while none is selected: the option `none`, or no text; null where it cannot say so. */
function noneOf(program: Program, variable: string): string | null {
  const found = program.variables.get(variable);
  if (found?.type === 'text') return '';
  return found?.options?.includes('none') ? 'none' : null;
}

/** What a layer of a choice group stands for: its own value, else its name. */
export const choiceValue = (node: Node): string => node.layer.choiceValue ?? node.layer.name;

function before(root: RootRun, node: Node | null, instance: Instance, what: Binding['what']): unknown {
  if (what === 'selected' && node) return isSelected(root, node);
  if (what === 'enabled' && node) return isEnabled(root, node);
  if (what === 'state' && node?.inside) return nameOfState(root, node.inside);
  return what === 'stateIs' ? nameOfState(root, instance) : null;
}

/** A value as a variable can hold it: within its limits, or why it cannot. */
export function fitVariable(
  variable: { readonly name: string; readonly type: string; readonly min?: number; readonly max?: number; readonly options?: readonly string[] },
  value: Value
): Value | { why: string } {
  const wanted = variable.type === 'number' ? 'number' : variable.type === 'yes/no' ? 'boolean' : 'string';
  if (typeof value !== wanted) return { why: `${variable.name} is of type ${variable.type}, so it cannot be ${wordsOf(value)}.` };
  if (typeof value === 'number')
    return Number.isFinite(value)
      ? Math.min(variable.max ?? Infinity, Math.max(variable.min ?? -Infinity, value))
      : { why: `${variable.name} cannot be that large.` };
  if (variable.type === 'choice' && !variable.options?.includes(value as string))
    return { why: `“${String(value)}” is none of the options of ${variable.name}.` };
  if (typeof value === 'string' && value.length > MOST_TEXT) return { why: `${variable.name} holds at most ${MOST_TEXT} signs.` };
  return value;
}

function fitField(field: NonNullable<Node['layer']['field']>, value: Value): Value | undefined {
  if (field.kind === 'number' || field.kind === 'slider') {
    const number = Number(value);
    return Number.isFinite(number) ? Math.min(field.max ?? Infinity, Math.max(field.min ?? -Infinity, number)) : undefined;
  }
  if (field.kind === 'choice') return field.options?.includes(String(value)) ? String(value) : undefined;
  return String(value).slice(0, MOST_TEXT);
}
