import { named as escape } from './escaped.ts';
import { sameKey } from '../vocabulary/keys.ts';
import type { Cue } from '../vocabulary/cues/all.ts';
import { toScript } from '../expression/script.ts';
import { sceneOfThread, type Branch, type Scene, type Thread } from '../piece/piece.ts';
import { expand } from '../program/expand.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import { startFrame, type Program, type SceneProgram } from '../program/program.ts';
import { destination } from '../run/frames.ts';
import { timeOf as transitionTime } from '../vocabulary/steps/define.ts';
import { wantedState } from '../vocabulary/steps/state.ts';
import { addressProblem } from '../vocabulary/address.ts';
import { ownerOf } from '../walk/at-thread.ts';
import { seenScenes } from '../walk/per-scene.ts';
import type { Step, StepOf } from '../vocabulary/steps/all.ts';

/**
 * The flow of a piece as a state chart: State Chart XML 1.0 (W3C), data model ecmascript. Frames are states, the states of a frame
 * states in them; cues are events, conditions guards, timers and waits delayed sends; what sheets answer is said in every frame that
 * carries them, what parts answer in every scene they are placed in. `omitted` lists by name what it cannot say.
 *
 * Events: `click.LAYER` (in a part `click.PLACEMENT.LAYER`), `click.frame`, `key.KEY`, `pad.N`, `signal.NAME`; `after.…` and `go-on.…` are its own.
 */
export interface StateChart {
  readonly xml: string;
  readonly omitted: readonly string[];
}

export const toScxml = (program: Program): StateChart => new Writer(program).run();

/** A place of the flow: a frame, in one of its states where it has some. */
interface Leaf {
  readonly scene: SceneProgram;
  readonly state: string | null;
}

/** Where the threads that answer one event have come to, and what has to be done for it. */
interface Path {
  /** Where the event found the person. */
  readonly from: Leaf;
  readonly leaf: Leaf;
  readonly content: readonly string[];
  /** It went to a frame, be it the same one. */
  readonly moved: boolean;
  /** It left a state, be it to come back. */
  readonly touched: boolean;
  /** What must hold for it. */
  readonly guards: readonly string[];
  /** How often it went back. */
  readonly backs: number;
  /** The event comes from outside of the chart, so what it left is on the way back by now. */
  readonly fromOutside: boolean;
  /** The scene that the thread belongs to by now; null where it is the piece's, which is everywhere. */
  readonly scene: SceneProgram | null;
}

/** A thread that answers, and the scene on the screen that it belongs to; null where it is the piece's. */
interface Call {
  readonly thread: Thread;
  readonly root: SceneProgram | null;
}

const beginPath = (from: Leaf, fromOutside: boolean): Path => ({
  from,
  leaf: from,
  content: [],
  moved: false,
  touched: false,
  guards: [],
  backs: 0,
  fromOutside,
  scene: from.scene,
});

const guarded = (path: Path, guard: string): Path => (guard ? { ...path, guards: [...path.guards, guard] } : path);

const MOST_WAYS = 1000;
const handled: ReadonlySet<Step['do']> = new Set(['go', 'set', 'state', 'wait', 'send', 'open']);

class Writer {
  private readonly omitted = new Set<string>();
  private readonly goOns: { readonly event: string; readonly branch: Branch; readonly from: number; readonly thread: Thread }[] = [];
  private readonly heard = new Set<string>();
  private readonly goesBack: boolean;
  /** The sheets that frames carry, with the parts in them. */
  private readonly onSheets: ReadonlySet<string>;
  /** All scenes that are on some frame: what is on none answers nothing. */
  private readonly seen: ReadonlySet<string>;
  /** All threads that are switched on, of those scenes and of the piece. */
  private readonly threads: readonly Thread[];

  constructor(private readonly program: Program) {
    const { scenes, frames, threads } = program;
    const partsIn = (ids: readonly string[]) => ids.flatMap((id) => expand(program, scenes.get(id)!).parts.map((part) => part.scene.id));
    const sheets = seenScenes(program).slice(frames.length);
    this.onSheets = new Set([...sheets, ...partsIn(sheets)]);
    this.seen = new Set([...frames, ...partsIn(frames), ...this.onSheets]);
    this.threads = [...[...this.seen].flatMap((id) => owned(scenes.get(id)!)), ...threads.filter(({ enabled }) => enabled)];
    this.goesBack = this.threads.some(({ branches }) =>
      branches.some(({ steps }) => steps.some((step) => step.do === 'go' && step.target.to === 'back'))
    );
  }

  run(): StateChart {
    const { program } = this;
    const first = startFrame(program);
    this.noteOmitted();
    for (const thread of this.threads) this.heard.add(eventOf(thread.cue));
    this.collectGoOns();
    const frames = program.frames.map((id) => this.frame(program.scenes.get(id)!));
    const data = [...program.variables.values()]
      .filter((one) => one.scene === null)
      .map((one) => `    <data id="${variableName(one.id)}" expr="${escape(JSON.stringify(one.initial))}"/>`);
    const xml = [
      '<?xml version="1.0" encoding="UTF-8"?>',
      ...(this.omitted.size
        ? [`<!-- What this chart does not say:\n${[...this.omitted].map((line) => `  ${line.replaceAll('--', '- -')}`).join('\n')}\n-->`]
        : []),
      `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" datamodel="ecmascript" name="${escape(nmtoken(program.piece.head.name))}"${first === null ? '' : ' initial="starting"'}>`,
      '  <datamodel>',
      ...data,
      '    <data id="_visit" expr="0"/>',
      '    <data id="_stay" expr="0"/>',
      '    <data id="_was" expr="null"/>',
      ...(this.goesBack ? ['    <data id="_back" expr="[]"/>', '    <data id="_origin" expr="null"/>', '    <data id="_trace" expr="true"/>'] : []),
      '  </datamodel>',
      ...(first === null ? [] : [this.starting(first)]),
      ...frames,
      '</scxml>',
      '',
    ].join('\n');
    return { xml, omitted: [...this.omitted] };
  }

  // ── what cannot be said ──────────────────────────────────────────────────────

  private noteOmitted(): void {
    const { scenes, piece } = this.program;
    const say = (line: string) => this.omitted.add(line);
    for (const { scene, items, states } of [...this.seen].map((id) => scenes.get(id)!)) {
      if (scene.use !== 'frame' && states.length) say(`the states of the ${scene.use} ${scene.name}`);
      if (scene.timeline) say(`the timeline of ${scene.name}`);
      if (scene.stateIs) say(`that the state of ${scene.name} follows an expression`);
      if (scene.onReturn === 'remember') say(`that ${scene.name} remembers`);
      for (const { layer } of items) {
        if (layer.bindings) say(`what ${layer.name} always follows`);
        if (layer.type === 'field') say(`the field ${layer.name}`);
      }
    }
    for (const thread of this.threads) {
      const owner = ownerOf(piece, thread);
      const scene = this.sceneOf(thread);
      if (!canCue(thread, scene)) say(`the cue “${thread.cue.type}” of ${owner}`);
      for (const branch of thread.branches) {
        if (branch.if !== undefined && this.script(branch.if) === null) say(`the condition of ${owner} on more than variables`);
        const moves = branch.steps.findIndex(({ do: what }) => what === 'go');
        for (const [at, step] of branch.steps.entries()) {
          if (step.lasting) say(`the step “${step.do}” of ${owner}, which goes on in another scene`);
          else if (step.do === 'state' && (step.of !== undefined || (scene && scene.use !== 'frame')))
            say(`the step “state” of ${owner}, for another scene`);
          else if (!handled.has(step.do)) say(`the step “${step.do}” of ${owner}`);
          if (scene && this.onSheets.has(scene.id) && at > 0 && takes(branch.steps, at) > 0 && (moves < 0 || moves >= at))
            say(`what ${owner} does after waiting`);
        }
      }
    }
  }

  private sceneOf(thread: Thread): Scene | undefined {
    const id = sceneOfThread(this.program.piece, thread);
    return id === null ? undefined : this.program.piece.scenes.get(id);
  }

  /** The scenes that are on the screen with a frame, from back to front. */
  private scenesOn(frame: SceneProgram): readonly SceneProgram[] {
    const { carries = [] } = frame.scene;
    const sheets = (place: 'under' | 'over') =>
      carries.filter((one) => one.place === place).flatMap(({ sheet }) => this.program.scenes.get(sheet) ?? []);
    return [...sheets('under'), frame, ...sheets('over')];
  }

  // ── states ───────────────────────────────────────────────────────────────────

  private starting(first: string): string {
    const scene = this.program.scenes.get(first)!;
    return [
      '  <state id="starting">',
      `    <transition target="${leafName(entryLeaf(scene))}">`,
      ...(this.goesBack ? [`      <assign location="_origin" expr="'${first}'"/>`] : []),
      ...this.entered(entryLeaf(scene)).map((line) => `      ${line}`),
      '    </transition>',
      '  </state>',
    ].join('\n');
  }

  private frame(scene: SceneProgram): string {
    const lines = [
      `  <state id="${frameName(scene)}"${scene.states.length ? ` initial="${leafName(entryLeaf(scene))}"` : ''}>`,
      '    <onentry>',
      ...this.visit(scene).map((line) => `      ${line}`),
      '    </onentry>',
    ];
    if (scene.states.length === 0) lines.push(...this.transitions({ scene, state: null }).map((line) => `    ${line}`));
    for (const state of scene.states) lines.push(...this.state({ scene, state: state.id }).map((line) => `    ${line}`));
    lines.push('  </state>');
    return lines.join('\n');
  }

  /** Done whenever a frame is come to: its timers begin, what waits in it from before is void. */
  private visit(scene: SceneProgram): string[] {
    return [
      '<assign location="_visit" expr="_visit + 1"/>',
      ...owned(scene).flatMap(({ id, cue }) => (cue.type === 'after' && cue.state === undefined ? [delayed(`after.${id}`, cue.ms, '_visit')] : [])),
    ];
  }

  private state(leaf: Leaf): string[] {
    const timers = owned(leaf.scene).filter((thread) => thread.cue.type === 'after' && thread.cue.state === leaf.state);
    return [
      `<state id="${leafName(leaf)}">`,
      '  <onentry>',
      '    <assign location="_stay" expr="_stay + 1"/>',
      ...timers.map((thread) => `    ${delayed(`after.${thread.id}`, (thread.cue as Extract<Cue, { type: 'after' }>).ms, '_stay')}`),
      '  </onentry>',
      ...this.transitions(leaf).map((line) => `  ${line}`),
      '</state>',
    ];
  }

  /** Raised when a scene comes into a state, or begins. */
  private entered(leaf: Leaf): string[] {
    const name = `state.entered.${leaf.scene.scene.id}.${leaf.state ?? 'none'}`;
    return this.hasStateCue(leaf.scene) ? [`<raise event="${name}"/>`] : [];
  }

  private hasStateCue = (scene: SceneProgram) => scene.threads.some((thread) => thread.enabled && thread.cue.type === 'state');

  // ── transitions ──────────────────────────────────────────────────────────────

  private transitions(leaf: Leaf): string[] {
    const { scene } = leaf;
    const lines: string[] = [];
    const put = (event: string, calls: readonly Call[], guard = '') => {
      if (calls.length) lines.push(...this.ways(event, calls, leaf, guard));
    };
    for (const one of this.scenesOn(scene))
      // A click on what is in a part has a name that begins with that of its placement, so it comes first.
      for (const node of expand(this.program, one).nodes.toSorted((a, b) => depthOf(b) - depthOf(a)))
        // Beside what catches, a press goes through a sheet to the frame.
        if (isShown(node) && (one === scene || node.catches))
          put(
            `click.${node.key.replaceAll('/', '.')}`,
            this.first([...chainOf(catcherOf(node)), one.threads], one, (cue) => cue.type === 'click')
          );
    put(
      'click.frame',
      this.first([scene.threads], scene, (cue) => cue.type === 'click')
    );
    for (const key of new Set(this.cues(scene, 'key').map((cue) => cue.key)))
      put(
        `key.${nmtoken(key)}`,
        this.frontTakers(scene, (cue) => cue.type === 'key' && sameKey(cue.key, key))
      );
    for (const button of new Set(this.cues(scene, 'pad').map((cue) => cue.button)))
      put(
        `pad.${button}`,
        this.frontTakers(scene, (cue) => cue.type === 'pad' && cue.button === button)
      );
    for (const signal of new Set(this.cues(scene, 'signal').map((cue) => cue.signal)))
      put(
        `signal.${nmtoken(signal)}`,
        this.everyone(scene, (cue) => cue.type === 'signal' && cue.signal === signal)
      );
    for (const id of new Set(this.cues(scene, 'variable').map((cue) => cue.variable)))
      if (id !== null)
        put(
          `variable.${id}`,
          this.everyone(scene, (cue) => cue.type === 'variable' && cue.variable === id)
        );
    for (const change of ['entered', 'left'] as const)
      for (const state of scene.states.length ? scene.states.map((one) => one.id) : ['none'])
        put(
          `state.${change}.${scene.scene.id}.${state}`,
          scene.threads
            .filter(
              (thread) =>
                thread.enabled &&
                thread.cue.type === 'state' &&
                thread.cue.change === change &&
                (thread.cue.state === null || thread.cue.state === state)
            )
            .map((thread) => ({ thread, root: scene }))
        );
    for (const thread of owned(scene)) {
      if (thread.cue.type !== 'after') continue;
      const counter = thread.cue.state === undefined ? '_visit' : '_stay';
      if (thread.cue.state === undefined || thread.cue.state === leaf.state)
        put(`after.${thread.id}`, [{ thread, root: scene }], `_event.data.at === ${counter}`);
    }
    for (const one of this.goOns) lines.push(...this.goOn(one, leaf));
    return lines;
  }

  private cues<T extends Cue['type']>(scene: SceneProgram, type: T): Extract<Cue, { type: T }>[] {
    return this.everyone(scene, (cue) => cue.type === type).map(({ thread }) => thread.cue as Extract<Cue, { type: T }>);
  }

  /** The first of several owners that answers, else the piece. */
  private first(owners: readonly (readonly Thread[])[], root: SceneProgram, fits: (cue: Cue) => boolean): readonly Call[] {
    const found = owners.map((threads) => threads.filter((thread) => thread.enabled && fits(thread.cue))).find((threads) => threads.length > 0);
    if (found) return found.map((thread) => ({ thread, root }));
    return this.program.threads.filter((thread) => thread.enabled && fits(thread.cue)).map((thread) => ({ thread, root: null }));
  }

  /** The frontmost layer that listens, else the scenes and the parts placed in them, from the front. */
  private frontTakers(scene: SceneProgram, fits: (cue: Cue) => boolean): readonly Call[] {
    const scenes = this.scenesOn(scene).toReversed();
    const has = (threads: readonly Thread[]) => threads.some((thread) => thread.enabled && fits(thread.cue));
    for (const one of scenes) {
      const front = expand(this.program, one).nodes.findLast((node) => isShown(node) && has(node.item.threads));
      if (front) return this.first([...chainOf(front), one.threads], one, fits);
    }
    for (const one of scenes) {
      const placed = [...expand(this.program, one).instances.values()].slice(1).find((instance) => has(instance.scene.threads));
      if (placed) return this.first([...chainOf(placed.placement!), one.threads], one, fits);
      if (has(one.threads)) return this.first([one.threads], one, fits);
    }
    return this.first([], scene, fits);
  }

  private everyone(scene: SceneProgram, fits: (cue: Cue) => boolean): readonly Call[] {
    const all = this.scenesOn(scene).flatMap((root) => {
      const { nodes, instances } = expand(this.program, root);
      const [own, ...placed] = instances.values();
      const threads = [...nodes.map(({ item }) => item.threads), ...[...placed, own!].map((instance) => instance.scene.threads)].flat();
      return threads.map((thread) => ({ thread, root }));
    });
    const piece = this.program.threads.map((thread) => ({ thread, root: null }));
    return [...all, ...piece].filter(({ thread }) => thread.enabled && fits(thread.cue));
  }

  /** One transition for each way that the branches of all threads of an event can fall. */
  private ways(event: string, calls: readonly Call[], leaf: Leaf, guard: string): string[] {
    const begin = beginPath(leaf, !/^(signal|variable|state)\./.test(event));
    let ways: readonly Path[] = [guarded(begin, guard)];
    for (const call of calls) {
      const { thread } = call;
      const choices = this.choices(thread);
      const next = choices && ways.flatMap((path) => choices.flatMap((choice) => this.choose(call, choice, path)));
      if (next === null || next.length > MOST_WAYS) this.omitted.add(`a thread for ${thread.cue.type} with conditions or branches that go too far`);
      else ways = next;
    }
    return ways.flatMap((path) => this.transition(event, path));
  }

  private choose({ thread, root }: Call, { guard, branch }: { guard: string; branch: Branch | null }, path: Path): Path[] {
    const chosen = guarded(path, guard);
    return branch ? this.follow(thread, branch, 0, { ...chosen, scene: root }) : [chosen];
  }

  /** The branches of a thread with the guard under which each is taken; the last is that none is. */
  private choices(thread: Thread): { guard: string; branch: Branch | null }[] | null {
    const choices: { guard: string; branch: Branch | null }[] = [];
    const before: string[] = [];
    for (const branch of thread.branches) {
      const own = branch.if === undefined ? 'true' : this.script(branch.if);
      if (own === null) return null;
      const guards = [...before.map((one) => `!(${one})`), ...(own === 'true' ? [] : [own])];
      choices.push({ guard: guards.join(' && '), branch });
      if (own === 'true') return choices;
      before.push(own);
    }
    choices.push({ guard: before.map((one) => `!(${one})`).join(' && '), branch: null });
    return choices;
  }

  private script(stored: string): string | null {
    const parsed = this.program.parse(stored);
    return parsed.ok
      ? toScript(parsed.value, (id, property) => (property === null && this.program.variables.get(id)?.scene === null ? variableName(id) : null))
      : null;
  }

  // ── steps ────────────────────────────────────────────────────────────────────

  private collectGoOns(): void {
    for (const thread of this.threads)
      for (const [b, branch] of thread.branches.entries())
        branch.steps.forEach((_step, at) => {
          if (at > 0 && takes(branch.steps, at) > 0) this.goOns.push({ event: `go-on.${thread.id}.${b}.${at}`, branch, from: at, thread });
        });
  }

  private goOn({ event, branch, from, thread }: (typeof this.goOns)[number], leaf: Leaf): string[] {
    const begin = beginPath(leaf, true);
    const path = thread.on === 'piece' ? { ...begin, scene: null } : guarded(begin, '_event.data.at === _visit');
    return this.follow(thread, branch, from, path).flatMap((followed) => this.transition(event, followed));
  }

  /** Runs steps from one on, to their end or to the first that has to be waited for. */
  private follow(thread: Thread, branch: Branch, from: number, begin: Path, took = 0): Path[] {
    const step = branch.steps[from];
    if (!step) return [begin];
    if (!step.with && took > 0) return [this.goOnLater(`go-on.${thread.id}.${thread.branches.indexOf(branch)}.${from}`, took, begin)];
    const before = step.with ? took : 0;
    return this.step(step, begin, thread).flatMap((next) => {
      const takes = next.content !== begin.content || step.do === 'wait';
      return this.follow(thread, branch, from + 1, next, takes ? Math.max(before, lengthOf(step)) : before);
    });
  }

  /** Steps that wait end with the scene they belong to. */
  private goOnLater(event: string, ms: number, path: Path): Path {
    if (path.scene !== null && path.scene !== path.leaf.scene) return path;
    // A frame that is come to from outside of it counts its visit only after this.
    const comes = path.moved && (path.leaf.scene !== path.from.scene || path.leaf.state === null);
    return { ...path, content: [...path.content, delayed(event, ms, comes ? '_visit + 1' : '_visit')] };
  }

  private step(step: Step, path: Path, thread: Thread): Path[] {
    switch (step.do) {
      case 'set':
        return [this.set(step, path)];
      case 'send':
        return [{ ...path, content: [...path.content, `<raise event="signal.${nmtoken(step.signal)}"/>`] }];
      case 'go':
        return step.target.to === 'back' ? this.goBack(path) : [this.go(step, path)];
      case 'state':
        return [this.sceneOf(thread)?.use === 'part' ? path : this.put(step, path)];
      case 'open':
        return addressProblem(step.address) === null
          ? [{ ...path, content: [...path.content, `<log label="open" expr="${escape(JSON.stringify(step.address))}"/>`] }]
          : [path];
      default:
        return [path];
    }
  }

  private set(step: StepOf<'set'>, path: Path): Path {
    const variable = step.variable === null ? undefined : this.program.variables.get(step.variable);
    const value = this.script(step.value);
    if (!variable || variable.scene !== null || value === null) return path;
    const name = variableName(variable.id);
    const least = variable.min === undefined ? value : `Math.max(${variable.min}, ${value})`;
    const fitted = variable.max === undefined ? least : `Math.min(${variable.max}, ${least})`;
    const content = [`<assign location="_was" expr="${name}"/>`, `<assign location="${name}" expr="${escape(fitted)}"/>`];
    if (this.heard.has(`variable.${variable.id}`)) content.push(`<if cond="_was !== ${name}"><raise event="variable.${variable.id}"/></if>`);
    return { ...path, content: [...path.content, ...content] };
  }

  private go({ target, replace }: StepOf<'go'>, path: Path): Path {
    const to = destination(this.program, { frame: path.leaf.scene.scene.id, back: [] }, target);
    const scene = typeof to === 'string' ? this.program.scenes.get(to) : undefined;
    if (!scene) return path;
    return this.enter(scene, replace && this.goesBack ? { ...path, content: [...path.content, NO_TRACE] } : path);
  }

  private enter(scene: SceneProgram, path: Path): Path {
    const leaf = entryLeaf(scene);
    // From a state of a frame to one of the same frame, a chart stays in the frame.
    const again = scene === path.from.scene && leaf.state !== null ? this.visit(scene) : [];
    return { ...path, leaf, content: [...path.content, ...again, ...this.entered(leaf)], moved: true, scene: path.scene && scene };
  }

  /** One way for each frame that may be the one to go back to, and one where there is none. */
  private goBack(path: Path): Path[] {
    const trail = path.fromOutside ? `(${this.isBehind(path.from)} ? _back.concat(_origin) : _back)` : '_back';
    const last = `${trail}[${trail}.length - ${path.backs + 1}]`;
    const ways = this.program.frames.map((frame) => {
      const content = [...path.content, NO_TRACE, '<assign location="_back" expr="_back.slice(0, -1)"/>'];
      return this.enter(this.program.scenes.get(frame)!, {
        ...path,
        content,
        guards: [...path.guards, `${last} === '${frame}'`],
        backs: path.backs + 1,
      });
    });
    return [...ways, { ...path, guards: [...path.guards, `${trail}.length <= ${path.backs}`] }];
  }

  /** Whether the last event from outside led here from another frame that *back* is to lead to, but which is not in the list yet. */
  private isBehind({ scene }: Leaf): string {
    return `_trace && _origin !== '${scene.scene.id}'`;
  }

  /** What every event from outside begins with: the frame that the one before it left is put on the way back. */
  private remember(from: Leaf): string[] {
    return [
      `<if cond="${escape(this.isBehind(from))}"><assign location="_back" expr="_back.concat(_origin)"/></if>`,
      `<assign location="_origin" expr="'${from.scene.scene.id}'"/>`,
      '<assign location="_trace" expr="true"/>',
    ];
  }

  private put({ of, to }: StepOf<'state'>, path: Path): Path {
    const { scene, state } = path.leaf;
    if (of !== undefined || state === null || (path.scene !== null && path.scene !== scene)) return path;
    const wanted = wantedState(scene, state, to);
    if (wanted === null || wanted === undefined || wanted === state) return path;
    const leaf = { scene, state: wanted };
    const left = this.hasStateCue(scene) ? [`<raise event="state.left.${scene.scene.id}.${state}"/>`] : [];
    return { ...path, leaf, content: [...path.content, ...left, ...this.entered(leaf)], touched: true };
  }

  private transition(event: string, { from, leaf, content, moved, touched, guards, fromOutside }: Path): string[] {
    const target = moved || touched ? ` target="${leafName(leaf)}"` : '';
    const cond = guards.length ? ` cond="${escape(guards.map((guard) => `(${guard})`).join(' && '))}"` : '';
    const isIdle = content.length === 0 && !target;
    const lines = fromOutside && this.goesBack && !isIdle ? [...this.remember(from), ...content] : content;
    if (lines.length === 0) return [`<transition event="${event}"${cond}${target}/>`];
    return [`<transition event="${event}"${cond}${target}>`, ...lines.map((line) => `  ${line}`), '</transition>'];
  }
}

const NO_TRACE = '<assign location="_trace" expr="false"/>';

/**
 * Whether a chart can say what a thread waits for. A sheet is on the screen over many frames, whose visits its own time would not end
 * with; a part has its own time and state in each of its placements.
 */
const canCue = ({ cue }: Thread, scene: Scene | undefined): boolean =>
  ['click', 'key', 'pad', 'signal', 'variable'].includes(cue.type) || ((!scene || scene.use === 'frame') && ['state', 'after'].includes(cue.type));

/** How long the steps before one take, when they are a group that has to end first; 0 where it starts at once. */
function takes(steps: readonly Step[], at: number): number {
  if (steps[at]!.with) return 0;
  let longest = 0;
  for (let i = at - 1; i >= 0; i--) {
    longest = Math.max(longest, lengthOf(steps[i]!));
    if (!steps[i]!.with) break;
  }
  return longest;
}

const lengthOf = (step: Step): number => {
  if (step.do === 'wait') return step.ms;
  if ('transition' in step) return transitionTime(step.transition);
  return 'timing' in step && step.timing ? step.timing.ms + (step.timing.delay ?? 0) : 0;
};

const depthOf = ({ key }: Node) => key.split('/').length;

const isShown = (node: Node): boolean => outwardNodes(node).every(({ item }) => item.shown);

/** Who is pressed where a layer is: it, or what is around it and catches what it lets through. */
const catcherOf = (node: Node): Node => outwardNodes(node).find(({ catches }) => catches) ?? node;

/** Who answers for a layer, from the inside out: of what is in a part, the part's own scene comes before its placement. */
function chainOf(node: Node): (readonly Thread[])[] {
  return outwardNodes(node).flatMap((at) => {
    const own = [at.item.threads];
    if (at === node && at.inside) own.push(at.inside.scene.threads);
    if (at.parent?.inside && at.parent.inside === at.instance) own.push(at.instance.scene.threads);
    return own;
  });
}

const owned = (scene: SceneProgram): Thread[] =>
  [...scene.items.flatMap((item) => item.threads), ...scene.threads].filter((thread) => thread.enabled);

const eventOf = (cue: Cue): string => (cue.type === 'variable' ? `variable.${cue.variable}` : cue.type);

const entryLeaf = (scene: SceneProgram): Leaf => ({ scene, state: scene.initial });

const frameName = ({ scene }: SceneProgram) => `frame_${scene.id}`;

const leafName = ({ scene, state }: Leaf) => (state === null ? frameName(scene) : `state_${scene.scene.id}_${state}`);

const variableName = (id: string) => `v_${id.replace(/[^0-9A-Za-z_]/g, '_')}`;

const nmtoken = (text: string) => text.replace(/[^0-9A-Za-z_-]+/g, '_') || '_';

const delayed = (event: string, ms: number, at: string) => `<send event="${event}" delay="${ms}ms"><param name="at" expr="${at}"/></send>`;
