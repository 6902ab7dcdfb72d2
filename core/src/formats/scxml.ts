import {
  catcherOf,
  chainOf,
  depthOf,
  entryLeaf,
  hearsState,
  isShown,
  nameOfState,
  ofPiece,
  owned,
  ownOf,
  timersIn,
  type Call,
  type Kept,
  type Leaf,
  type Owner,
} from './chart.ts';
import { afterOf, delayed, eventOf, frameName, goOnOf, leafName, nmtoken, token, variableName, visitOf } from './chart-names.ts';
import { ChartTime, isTimeStep, playsOn, type Told, type TimeStep } from './chart-time.ts';
import { named as escape } from './escaped.ts';
import { sameKey } from '../vocabulary/keys.ts';
import type { Cue } from '../vocabulary/cues/all.ts';
import { toScript } from '../expression/script.ts';
import type { Branch, Thread } from '../piece/piece.ts';
import { placeOf } from '../program/binding.ts';
import { expand } from '../program/expand.ts';
import { statesAround } from '../program/node.ts';
import { startFrame, type Program, type SceneProgram } from '../program/program.ts';
import { destination } from '../run/frames.ts';
import { timeOf as transitionTime } from '../vocabulary/steps/define.ts';
import { wantedState } from '../vocabulary/steps/state.ts';
import { addressProblem } from '../vocabulary/address.ts';
import { ownerOf } from '../walk/at-thread.ts';
import { shownByLooks } from '../walk/by-looks.ts';
import { seenScenes } from '../walk/per-scene.ts';
import type { Step, StepOf } from '../vocabulary/steps/all.ts';

/**
 * The flow of a piece as a state chart: State Chart XML 1.0 (W3C), data model ecmascript. Frames are states, the states of a frame
 * states in them; cues are events, conditions guards, timers and waits delayed sends; what sheets answer is said in every frame that
 * carries them, what parts answer in every scene they are placed in. The states of sheets and of what is placed stand in the data, by
 * their names: as many as there are placements. So do the sections of timelines. `omitted` lists by name what it cannot say.
 *
 * Events: `click.LAYER` (in a part `click.PLACEMENT.LAYER`), `click.frame`, `key.KEY`, `pad.N`, `signal.NAME`; `after.…`, `state.…`,
 * `label.…`, `time.…` and `go-on.…` are its own.
 */
export interface StateChart {
  readonly xml: string;
  readonly omitted: readonly string[];
}

export const toScxml = (program: Program): StateChart => new Writer(program).run();

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
  private readonly goOns: { readonly event: string; readonly branch: Branch; readonly from: number; readonly call: Call }[] = [];
  /** By the scene on the screen and the key in it. */
  private readonly kept = new Map<string, Kept>();
  private readonly heard = new Set<string>();
  private readonly goesBack: boolean;
  /** The sheets that frames carry, as they stand on the screen. */
  private readonly sheets: readonly SceneProgram[];
  /** All scenes that are on some frame: what is on none answers nothing. */
  private readonly seen: ReadonlySet<string>;
  /** All threads that are switched on, wherever they stand on some frame, and those of the piece. */
  private readonly calls: readonly Call[];
  private readonly time: ChartTime;

  constructor(private readonly program: Program) {
    const [frames, sheets] = [program.frames, seenScenes(program).slice(program.frames.length)].map((ids) =>
      ids.map((id) => program.scenes.get(id)!)
    ) as [SceneProgram[], SceneProgram[]];
    const withParts = (roots: readonly SceneProgram[]) => [...roots, ...roots.flatMap((root) => expand(program, root).parts)];
    const idOf = ({ scene }: Pick<SceneProgram, 'scene'>) => scene.id;
    this.sheets = sheets;
    this.seen = new Set([...withParts(frames), ...withParts(sheets)].map(idOf));
    this.calls = [...[...frames, ...sheets].flatMap((root) => this.callsIn(root)), ...program.threads.map(ofPiece)].filter(
      ({ thread }) => thread.enabled
    );
    for (const root of [...frames, ...sheets]) this.keepStates(root);
    this.time = new ChartTime(program, [...frames, ...sheets], this.calls);
    this.goesBack = this.calls.some(({ thread }) =>
      thread.branches.some(({ steps }) => steps.some((step) => step.do === 'go' && step.target.to === 'back'))
    );
  }

  run(): StateChart {
    const { program } = this;
    const first = startFrame(program);
    this.noteOmitted();
    for (const { thread } of this.calls) this.heard.add(eventOf(thread.cue));
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
      ...this.sheets.map((sheet) => `    <data id="${visitOf(sheet)}" expr="0"/>`),
      ...[...this.kept.values()].flatMap(({ name, stay, initial, timers }) => [
        `    <data id="${name}" expr="${escape(JSON.stringify(initial))}"/>`,
        ...(timers.length > 0 ? [`    <data id="${stay}" expr="0"/>`] : []),
      ]),
      ...this.time.data(),
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
    for (const seen of [...this.seen].map((id) => scenes.get(id)!)) {
      const { scene, items } = seen;
      for (const name of shownByLooks(seen)) say(`what looks of ${name} show and hide`);
      if (scene.stateIs) say(`that the state of ${scene.name} follows an expression`);
      if (scene.onReturn === 'remember') say(`that ${scene.name} remembers`);
      for (const { layer } of items) {
        if (layer.bindings) say(`what ${layer.name} always follows`);
        if (layer.type === 'field') say(`the field ${layer.name}`);
      }
    }
    for (const line of this.time.omitted) say(line);
    for (const call of this.calls) {
      const { thread } = call;
      const owner = ownerOf(piece, thread);
      const isUntold = thread.cue.type === 'label' && !(call.root && call.instance && this.time.get(call.root, call.instance));
      if (!CUES.has(thread.cue.type) || isUntold) say(`the cue “${thread.cue.type}” of ${owner}`);
      if (thread.cue.type === 'variable') this.noteVariable(thread.cue.variable);
      for (const branch of thread.branches) {
        if (branch.if !== undefined && this.script(branch.if, call) === null) say(`the condition of ${owner} on more than variables and states`);
        for (const step of branch.steps) {
          if (step.lasting) say(`the step “${step.do}” of ${owner}, which goes on in another scene`);
          else if (step.do === 'state' && this.subjectOf(call, step.of) === null) say(`the step “state” of ${owner}`);
          else if (!(isTimeStep(step) ? this.time.tells(call, step) : handled.has(step.do))) say(`the step “${step.do}” of ${owner}`);
          if (step.do !== 'set') continue;
          this.noteVariable(step.variable);
          if (this.script(step.value, call) === null) say(`the value that ${owner} sets`);
        }
      }
    }
  }

  private noteVariable(id: string | null): void {
    const { variables, scenes } = this.program;
    const variable = id === null ? undefined : variables.get(id);
    if (variable && variable.scene !== null)
      this.omitted.add(`the variable ${variable.name} of ${scenes.get(variable.scene)?.scene.name ?? 'a scene'}`);
  }

  // ── what is kept in data ─────────────────────────────────────────────────────

  /** Notes what of a scene on the screen has states of its own, besides a frame, which is a state itself. */
  private keepStates(root: SceneProgram): void {
    for (const instance of expand(this.program, root).instances.values()) {
      const { key, scene, placement } = instance;
      if (scene.states.length === 0 || (key === '' && (root.scene.use === 'frame' || scene.scene.stateIs))) continue;
      if (placement && statesAround(placement).some(({ deltas, path }) => deltas[path]?.state !== undefined)) {
        this.omitted.add(`that the state of ${placement.layer.name} is as one around it says`);
        continue;
      }
      if (placement?.layer.bindings?.state !== undefined) continue;
      const begins = scene.states.find(({ id }) => id === placement?.layer.state) ?? scene.states.find(({ id }) => id === scene.initial)!;
      const name = `s_${token(root, key)}`;
      const timers = owned(scene).filter(({ cue }) => cue.type === 'after' && cue.state !== undefined);
      this.kept.set(`${root.scene.id} ${key}`, { name, root, instance, initial: begins.name, timers, stay: `_stay_${name}` });
    }
  }

  private keptIn = (root: SceneProgram): readonly Kept[] => [...this.kept.values()].filter((one) => one.root === root);

  /** Who is told that what is kept comes into a state or leaves one: the placement's threads, then its scene's own. */
  private toldOf({ root, instance }: Kept, change: 'entered' | 'left', state: string): readonly Call[] {
    const { placement, scene } = instance;
    const fits = (thread: Thread) => hearsState(thread, change, state);
    return [
      ...(placement?.item.threads ?? []).filter(fits).map((thread) => ({ thread, root, instance: placement!.instance })),
      ...scene.threads.filter(fits).map((thread) => ({ thread, root, instance })),
    ];
  }

  private eventOfState = ({ name }: Kept, change: 'entered' | 'left', state: string): string => `state.${change}.${name}.${nmtoken(state)}`;

  /** What follows from something kept having come into a state that may be any, or is one of these: who is told, and what begins to wait. */
  private keptEntered(one: Kept): string[] {
    const lines = one.timers.length > 0 ? [`<assign location="${one.stay}" expr="${one.stay} + 1"/>`] : [];
    for (const { id, name } of one.instance.scene.states) {
      const then = [
        ...(this.toldOf(one, 'entered', id).length > 0 ? [`<raise event="${this.eventOfState(one, 'entered', id)}"/>`] : []),
        ...one.timers.flatMap((thread) =>
          thread.cue.type === 'after' && thread.cue.state === id ? [delayed(afterOf({ ...one, thread }), thread.cue.ms, one.stay)] : []
        ),
      ];
      if (then.length > 0) lines.push(`<if cond="${escape(`${one.name} === ${JSON.stringify(name)}`)}">`, ...then, '</if>');
    }
    return lines;
  }

  /** What is kept begins as it does whenever its scene comes onto the screen. */
  private keptBegins = (root: SceneProgram): string[] =>
    this.keptIn(root).flatMap((one) => [`<assign location="${one.name}" expr="${escape(JSON.stringify(one.initial))}"/>`, ...this.keptEntered(one)]);

  /** A sheet comes onto the screen. */
  private sheetBegins = (sheet: SceneProgram): string[] => [
    `<assign location="${visitOf(sheet)}" expr="${visitOf(sheet)} + 1"/>`,
    ...this.time.begins(sheet),
    ...this.timers(sheet, visitOf(sheet)),
    ...this.keptBegins(sheet),
  ];

  /** What begins to wait when a scene comes onto the screen, in it and in what is placed in it. */
  private timers = (root: SceneProgram, visit: string): string[] =>
    this.afters(root).flatMap((call) => (call.thread.cue.type === 'after' ? [delayed(afterOf(call), call.thread.cue.ms, visit)] : []));

  private afters = (root: SceneProgram): readonly Call[] =>
    this.callsIn(root).filter(({ thread: { enabled, cue } }) => enabled && cue.type === 'after' && cue.state === undefined);

  /** What a step about states means: a frame itself, or something kept; null for what is neither. */
  private subjectOf({ instance, root }: Call, of: string | undefined): Kept | 'frame' | null {
    const { scenes, piece } = this.program;
    if (!instance || !root) return of === undefined ? 'frame' : null;
    const key = of === undefined ? instance.key : placeOf(this.program, instance, of);
    const own = scenes.get(key)?.scene.id ?? (key === '' ? root.scene.id : undefined);
    if (own !== undefined && scenes.get(own)!.scene.use === 'frame') return own === root.scene.id ? 'frame' : null;
    const scene = own ?? piece.layers.get(key.split('/', 1)[0]!)?.scene;
    return this.kept.get(`${scene} ${own === undefined ? key : ''}`) ?? null;
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
      ...this.begins(scene, NO_SCENES).map((line) => `      ${line}`),
      '    </transition>',
      '  </state>',
    ].join('\n');
  }

  private frame(scene: SceneProgram): string {
    const before = this.goesBack ? this.remember({ scene, state: null }) : [];
    const lines = [
      `  <state id="${frameName(scene)}"${scene.states.length ? ` initial="${leafName(entryLeaf(scene))}"` : ''}>`,
      '    <onentry>',
      ...this.visit(scene).map((line) => `      ${line}`),
      '    </onentry>',
      ...this.scenesOn(scene).flatMap((root) => this.time.transitions(root, before).map((line) => `    ${line}`)),
    ];
    if (scene.states.length === 0) lines.push(...this.transitions({ scene, state: null }).map((line) => `    ${line}`));
    for (const state of scene.states) lines.push(...this.state({ scene, state: state.id }).map((line) => `    ${line}`));
    lines.push('  </state>');
    return lines.join('\n');
  }

  /** Done whenever a frame is come to: its timers begin, what waits in it from before is void. */
  private visit = (scene: SceneProgram): string[] => ['<assign location="_visit" expr="_visit + 1"/>', ...this.timers(scene, '_visit')];

  /** The scenes that come onto the screen with a frame begin, but for those that were on it and stay. */
  private begins(scene: SceneProgram, before: readonly SceneProgram[]): string[] {
    const sheets = this.scenesOn(scene).filter((one) => one !== scene && !before.includes(one));
    return [
      ...sheets.flatMap((sheet) => this.sheetBegins(sheet)),
      ...this.time.begins(scene),
      ...this.entered(entryLeaf(scene)),
      ...this.keptBegins(scene),
    ];
  }

  private state(leaf: Leaf): string[] {
    const timers = timersIn(leaf);
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
        if (isShown(node) && (one === scene || node.catches)) {
          const event = `click.${node.key.replaceAll('/', '.')}`;
          const guard = this.time.guardOf(one, node);
          put(
            event,
            this.first([...chainOf(catcherOf(node)), ownOf(this.program, one)], one, (cue) => cue.type === 'click'),
            guard
          );
          // Nobody presses what is not there, nor what is around it in its stead.
          if (guard) lines.push(`<transition event="${event}" cond="${escape(`!(${guard})`)}"/>`);
        }
    put(
      'click.frame',
      this.first([ownOf(this.program, scene)], scene, (cue) => cue.type === 'click')
    );
    for (const key of new Set(this.cues(scene, 'key').map((cue) => cue.key)))
      for (const { calls, guard } of this.frontTakers(scene, (cue) => cue.type === 'key' && sameKey(cue.key, key)))
        put(`key.${nmtoken(key)}`, calls, guard);
    for (const button of new Set(this.cues(scene, 'pad').map((cue) => cue.button)))
      for (const { calls, guard } of this.frontTakers(scene, (cue) => cue.type === 'pad' && cue.button === button))
        put(`pad.${button}`, calls, guard);
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
            .filter((thread) => hearsState(thread, change, state))
            .map((thread) => ({ thread, root: scene, instance: ownOf(this.program, scene).instance }))
        );
    for (const root of this.scenesOn(scene)) {
      for (const told of this.time.in(root))
        for (const label of Object.keys(told.timeline.labels ?? {}))
          put(
            this.time.labelEvent(told, label),
            this.callsIn(root).filter(
              ({ instance, thread: { enabled, cue } }) => enabled && instance === told.instance && cue.type === 'label' && cue.label === label
            )
          );
      for (const one of this.keptIn(root)) {
        for (const change of ['entered', 'left'] as const)
          for (const { id } of one.instance.scene.states) put(this.eventOfState(one, change, id), this.toldOf(one, change, id));
        for (const thread of one.timers) put(afterOf({ ...one, thread }), [{ ...one, thread }], `_event.data.at === ${one.stay}`);
      }
      for (const call of this.afters(root)) put(afterOf(call), [call], `_event.data.at === ${root === scene ? '_visit' : visitOf(root)}`);
    }
    for (const thread of timersIn(leaf))
      put(`after.${thread.id}`, [{ thread, root: scene, instance: ownOf(this.program, scene).instance }], '_event.data.at === _stay');
    for (const one of this.goOns) lines.push(...this.goOn(one, leaf), ...this.goOnWithSheet(one, leaf));
    return lines;
  }

  private cues<T extends Cue['type']>(scene: SceneProgram, type: T): Extract<Cue, { type: T }>[] {
    return this.everyone(scene, (cue) => cue.type === type).map(({ thread }) => thread.cue as Extract<Cue, { type: T }>);
  }

  /** The first of several owners that answers, else the piece. */
  private first(owners: readonly Owner[], root: SceneProgram, fits: (cue: Cue) => boolean): readonly Call[] {
    for (const { threads, instance } of owners) {
      const found = threads.filter((thread) => thread.enabled && fits(thread.cue));
      if (found.length > 0) return found.map((thread) => ({ thread, root, instance }));
    }
    return this.program.threads.filter((thread) => thread.enabled && fits(thread.cue)).map(ofPiece);
  }

  /**
   * The frontmost layer that listens, else the scenes and the parts placed in them, from the front; layers before the last only where
   * their spans have them there.
   */
  private frontTakers(scene: SceneProgram, fits: (cue: Cue) => boolean): readonly { readonly calls: readonly Call[]; readonly guard: string }[] {
    const scenes = this.scenesOn(scene).toReversed();
    const has = (threads: readonly Thread[]) => threads.some((thread) => thread.enabled && fits(thread.cue));
    const takers: { calls: readonly Call[]; guard: string }[] = [];
    const take = (owners: readonly Owner[], one: SceneProgram, guard = ''): boolean => {
      takers.push({ calls: this.first([...owners, ownOf(this.program, one)], one, fits), guard });
      return guard === '';
    };
    for (const one of scenes)
      for (const node of expand(this.program, one).nodes.toReversed())
        if (isShown(node) && has(node.item.threads) && take(chainOf(node), one, this.time.guardOf(one, node))) return takers;
    for (const one of scenes) {
      for (const { scene: part, placement } of [...expand(this.program, one).instances.values()].slice(1))
        if (has(part.threads) && take(chainOf(placement!), one)) return takers;
      if (has(one.threads) && take([], one)) return takers;
    }
    take([], scene);
    return takers;
  }

  private everyone(scene: SceneProgram, fits: (cue: Cue) => boolean): readonly Call[] {
    const all = this.scenesOn(scene).flatMap((root) => this.callsIn(root));
    return [...all, ...this.program.threads.map(ofPiece)].filter(({ thread }) => thread.enabled && fits(thread.cue));
  }

  /** Every thread of a scene on the screen: of its layers, of what is placed in it, and its own last. */
  private callsIn(root: SceneProgram): readonly Call[] {
    const { nodes, instances } = expand(this.program, root);
    const [own, ...placed] = instances.values();
    const owners = [
      ...nodes.map(({ item, instance }) => ({ threads: item.threads, instance })),
      ...[...placed, own!].map((instance) => ({ threads: instance.scene.threads, instance })),
    ];
    return owners.flatMap(({ threads, instance }) => threads.map((thread) => ({ thread, root, instance })));
  }

  /** One transition for each way that the branches of all threads of an event can fall. */
  private ways(event: string, calls: readonly Call[], leaf: Leaf, guard: string): string[] {
    const begin = beginPath(leaf, !/^(signal|variable|state|label)\./.test(event));
    let ways: readonly Path[] = [guarded(begin, guard)];
    for (const call of calls) {
      const { thread } = call;
      const choices = this.choices(call, leaf);
      const next = choices && ways.flatMap((path) => choices.flatMap((choice) => this.choose(call, choice, path)));
      // What cannot be said of its conditions is told already.
      if (next === null) continue;
      if (next.length > MOST_WAYS)
        this.omitted.add(`what ${ownerOf(this.program.piece, thread)} does for “${thread.cue.type}”, in over ${MOST_WAYS} ways`);
      else ways = next;
    }
    return ways.flatMap((path) => this.transition(event, path));
  }

  private choose(call: Call, { guard, branch }: { guard: string; branch: Branch | null }, path: Path): Path[] {
    const chosen = guarded(path, guard);
    return branch ? this.follow(call, branch, 0, { ...chosen, scene: call.root }) : [chosen];
  }

  /** The branches of a thread with the guard under which each is taken; the last is that none is. */
  private choices(call: Call, leaf: Leaf): { guard: string; branch: Branch | null }[] | null {
    const choices: { guard: string; branch: Branch | null }[] = [];
    const before: string[] = [];
    for (const branch of call.thread.branches) {
      const own = branch.if === undefined ? 'true' : this.script(branch.if, call, leaf);
      if (own === null) return null;
      const guards = [...before.map((one) => `!(${one})`), ...(own === 'true' ? [] : [own])];
      choices.push({ guard: guards.join(' && '), branch });
      if (own === 'true') return choices;
      before.push(own);
    }
    choices.push({ guard: before.map((one) => `!(${one})`).join(' && '), branch: null });
    return choices;
  }

  /** An expression of a thread, where a frame is in some state. */
  private script(stored: string, { instance, root }: Call, leaf: Leaf | null = null): string | null {
    const { variables, scenes } = this.program;
    const parsed = this.program.parse(stored);
    const stateOf = (id: string): string | null => {
      if (!instance || !root) return null;
      const key = placeOf(this.program, instance, id);
      const own = scenes.get(key);
      if (own?.scene.use === 'frame') return own !== root ? null : leaf ? JSON.stringify(nameOfState(leaf)) : FRAME_STATE;
      const on = own ?? this.sceneOf(key);
      return this.kept.get(`${on?.scene.id} ${own ? '' : key}`)?.name ?? null;
    };
    const sectionOf = (id: string): string | null => {
      if (!instance || !root) return null;
      const key = placeOf(this.program, instance, id);
      const own = scenes.get(key);
      const on = own ?? this.sceneOf(key);
      const found = on && expand(this.program, on).instances.get(own ? '' : key);
      return found && !(on.scene.use === 'frame' && on !== root) ? this.time.sectionOf(on, found) : null;
    };
    const nameOf = (id: string, property: string | null) => {
      if (property === 'state') return stateOf(id);
      if (property === 'section') return sectionOf(id);
      return property === null && variables.get(id)?.scene === null ? variableName(id) : null;
    };
    return parsed.ok ? toScript(parsed.value, nameOf, (id) => this.constantOf(id)) : null;
  }

  /** The scene on the screen that a layer, or what is placed in it, is in. */
  private sceneOf = (key: string): SceneProgram | undefined =>
    this.program.scenes.get(this.program.piece.layers.get(key.split('/', 1)[0]!)?.scene ?? '');

  /** The name that stands for a scene, or a state or label of one. */
  private constantOf(id: string): string | null {
    const [scene, inner] = id.split('/') as [string, string | undefined];
    const found = this.program.piece.scenes.get(scene);
    return (inner === undefined ? found?.name : (found?.states?.[inner]?.name ?? found?.timeline?.labels?.[inner]?.name)) ?? null;
  }

  // ── steps ────────────────────────────────────────────────────────────────────

  private collectGoOns(): void {
    for (const call of this.calls)
      for (const [b, branch] of call.thread.branches.entries())
        branch.steps.forEach((_step, at) => {
          if (at > 0 && takes(branch.steps, at) > 0) this.goOns.push({ event: goOnOf(call, b, at), branch, from: at, call });
        });
  }

  private goOn({ event, branch, from, call }: (typeof this.goOns)[number], leaf: Leaf): string[] {
    const begin = beginPath(leaf, true);
    const path = call.thread.on === 'piece' ? { ...begin, scene: null } : guarded(begin, '_event.data.at === _visit');
    return this.follow(call, branch, from, path).flatMap((followed) => this.transition(event, followed));
  }

  /** What a sheet does after waiting goes on as long as it is on the screen, whichever frame it is on. */
  private goOnWithSheet({ event, branch, from, call }: (typeof this.goOns)[number], leaf: Leaf): string[] {
    const { root } = call;
    if (!root || root.scene.use === 'frame' || !this.scenesOn(leaf.scene).includes(root)) return [];
    const path = guarded({ ...beginPath(leaf, true), scene: root }, `_event.data.at === ${visitOf(root)}`);
    return this.follow(call, branch, from, path).flatMap((followed) => this.transition(`${event}.${WITH_SHEET}`, followed));
  }

  /** Runs steps from one on, to their end or to the first that has to be waited for. */
  private follow(call: Call, branch: Branch, from: number, begin: Path, took: Took = 0): Path[] {
    const step = branch.steps[from];
    if (!step) return [begin];
    if (!step.with && took !== 0) return [this.goOnLater(goOnOf(call, call.thread.branches.indexOf(branch), from), took, begin)];
    const before = step.with ? took : 0;
    if (isTimeStep(step)) {
      const { path, told } = this.inTime(step, begin, call);
      return this.follow(call, branch, from + 1, path, typeof before === 'number' && told && playsOn(step) ? told : before);
    }
    return this.step(step, begin, call).flatMap((next) => {
      const takes = next.content !== begin.content || step.do === 'wait';
      return this.follow(call, branch, from + 1, next, takes && typeof before === 'number' ? Math.max(before, lengthOf(step)) : before);
    });
  }

  /** Does a step to timelines; told is the last of them, whose section steps may wait for. */
  private inTime(step: TimeStep, path: Path, call: Call): { readonly path: Path; readonly told: Told | undefined } {
    const all = (this.time.subjects(call, step, path.leaf.scene) ?? []).filter(({ root }) => this.scenesOn(path.leaf.scene).includes(root));
    return { path: { ...path, content: [...path.content, ...all.flatMap((told) => this.time.does(step, told))] }, told: all.at(-1) };
  }

  /** Steps that wait end with the scene they belong to. */
  private goOnLater(event: string, took: number | Told, path: Path): Path {
    const { scene } = path;
    const later = (name: string, visit: string) => (typeof took === 'number' ? delayed(name, took, visit) : this.time.waitsFor(took, name, visit));
    if (scene !== null && scene !== path.leaf.scene) {
      if (scene.scene.use === 'frame' || !this.scenesOn(path.leaf.scene).includes(scene)) return path;
      return { ...path, content: [...path.content, later(`${event}.${WITH_SHEET}`, visitOf(scene))] };
    }
    // A frame that is come to from outside of it counts its visit only after this.
    const comes = path.moved && (path.leaf.scene !== path.from.scene || path.leaf.state === null);
    return { ...path, content: [...path.content, later(event, comes ? '_visit + 1' : '_visit')] };
  }

  private step(step: Step, path: Path, call: Call): Path[] {
    switch (step.do) {
      case 'set':
        return [this.set(step, path, call)];
      case 'send':
        return [{ ...path, content: [...path.content, `<raise event="signal.${nmtoken(step.signal)}"/>`] }];
      case 'go':
        return step.target.to === 'back' ? this.goBack(path) : [this.go(step, path)];
      case 'state':
        return this.put(step, path, call);
      case 'open':
        return addressProblem(step.address) === null
          ? [{ ...path, content: [...path.content, `<log label="open" expr="${escape(JSON.stringify(step.address))}"/>`] }]
          : [path];
      default:
        return [path];
    }
  }

  private set(step: StepOf<'set'>, path: Path, call: Call): Path {
    const variable = step.variable === null ? undefined : this.program.variables.get(step.variable);
    const value = this.script(step.value, call, path.leaf);
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
    const begins = this.begins(scene, this.scenesOn(path.leaf.scene));
    return { ...path, leaf, content: [...path.content, ...again, ...begins], moved: true, scene: path.scene && scene };
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

  private put(step: StepOf<'state'>, path: Path, call: Call): Path[] {
    const subject = this.subjectOf(call, step.of);
    if (subject === null) return [path];
    if (subject !== 'frame') return this.putKept(subject, step, path, call);
    return [this.putFrame(step, path)];
  }

  private putFrame({ to }: StepOf<'state'>, path: Path): Path {
    const { scene, state } = path.leaf;
    if (state === null || (path.scene !== null && path.scene !== scene)) return path;
    const wanted = wantedState(scene, state, to);
    if (wanted === null || wanted === undefined || wanted === state) return path;
    const leaf = { scene, state: wanted };
    const left = this.hasStateCue(scene) ? [`<raise event="state.left.${scene.scene.id}.${state}"/>`] : [];
    return { ...path, leaf, content: [...path.content, ...left, ...this.entered(leaf)], touched: true };
  }

  /** Brings what is kept into another state, and tells of that and lets begin what then waits, where it is another one. */
  private putKept(one: Kept, step: StepOf<'state'>, path: Path, call: Call): Path[] {
    if (!this.scenesOn(path.leaf.scene).includes(one.root)) return [path];
    const { states } = one.instance.scene;
    const named = (id: string | null | undefined) => states.find((state) => state.id === id)?.name;
    const leads = states.map(({ id, name }) => [name, named(wantedState(one.instance.scene, id, step.to)) ?? name] as const);
    const idle = leads.flatMap(([from, into]) => (from === into ? JSON.stringify(from) : []));
    if (idle.length === leads.length) return [path];
    const isOne = leads.every(([, into]) => into === leads[0]![1]);
    const next = isOne ? JSON.stringify(leads[0]![1]) : `(${JSON.stringify(Object.fromEntries(leads))})[${one.name}]`;
    const left = states.flatMap(({ id, name }) =>
      this.toldOf(one, 'left', id).length > 0
        ? [`<if cond="${escape(`_was === ${JSON.stringify(name)}`)}"><raise event="${this.eventOfState(one, 'left', id)}"/></if>`]
        : []
    );
    const then = [...left, ...this.keptEntered(one)];
    const content = [`<assign location="_was" expr="${one.name}"/>`, `<assign location="${one.name}" expr="${escape(next)}"/>`];
    if (then.length > 0) content.push(`<if cond="_was !== ${one.name}">`, ...then, '</if>');
    const put = { ...path, content: [...path.content, ...content] };
    // What is there already takes no time.
    if (idle.length === 0 || lengthOf(step) === 0) return [put];
    if (path.content.some((line) => line.includes(`location="${one.name}"`)))
      this.omitted.add(`how long the step “state” of ${ownerOf(this.program.piece, call.thread)} takes where it is there already`);
    const isThere = idle.map((state) => `${one.name} === ${state}`).join(' || ');
    return [guarded(path, isThere), guarded(put, `!(${isThere})`)];
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

/** How long steps take: in milliseconds, or until a timeline has come to the end of a section. */
type Took = number | Told;

const NO_TRACE = '<assign location="_trace" expr="false"/>';

/** What a chart can say that a thread waits for. */
const CUES: ReadonlySet<Cue['type']> = new Set<Cue['type']>(['click', 'key', 'pad', 'signal', 'variable', 'state', 'after', 'label']);

const NO_SCENES: readonly SceneProgram[] = [];

/** Stands for the state of a frame where it is not asked yet which one that is. */
const FRAME_STATE = 'null';

/** What waits with a sheet, and not with the frame that it is on. */
const WITH_SHEET = 'sheet';

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
  if (playsOn(step)) return Infinity;
  if (step.do === 'wait') return step.ms;
  if ('transition' in step) return transitionTime(step.transition);
  return 'timing' in step && step.timing ? step.timing.ms + (step.timing.delay ?? 0) : 0;
};
