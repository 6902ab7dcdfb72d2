import type { Value } from '../expression/ast.ts';
import type { Timing } from '../fields/step-fields.ts';
import { outwardNodes, type Instance, type Node } from '../program/node.ts';
import type { ActedLayer, ActedStates, ActedTime, Acting, ChangedNumber, Laid, LayerFlag } from '../vocabulary/acting.ts';
import { isStepped, notDone, type Stepped, type Took } from '../vocabulary/stepped.ts';
import { stepKind, type Step } from '../vocabulary/steps/all.ts';
import type { Target } from '../vocabulary/target.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';
import type { Place } from './environment.ts';
import { destination, enterFrame, liftTop } from './frames.ts';
import { pause, pauseInstance, play, playInstance, showFrame } from './heads.ts';
import { currentFrame, sectionsOf } from './playhead.ts';
import { boundState, boundsOf, isEnabled, isSelected, isShown, poseOf, standingRoot, stateOf } from './resolve.ts';
import type { Call, Runner } from './runner.ts';
import { scrollTo } from './scrolling.ts';

/** Does a step of a thread. */
export const runStep = (runner: Runner, call: Call, step: Step): Stepped => stepKind(step.do).run(new StepActing(runner, call), step);

type LayerPlace = Place & { readonly node: Node };

/** A run, as a step of a thread can act on it. */
class StepActing implements Acting {
  constructor(
    private readonly runner: Runner,
    private readonly call: Call
  ) {}

  whereTo = (target: Target) => destination(this.runner.program, this.runner.run, target);

  frameName(frame: string): string | null {
    const { program } = this.runner;
    return program.frameAt.has(frame) ? program.scenes.get(frame)!.scene.name : null;
  }

  isOnScreen = (frame: string): boolean => frame === this.runner.run.frame || this.runner.run.overlays.some((overlay) => overlay.frame === frame);

  get isCovered(): boolean {
    return this.runner.run.overlays.length > 0;
  }

  goTo(to: string, transition: Transition, trace: 'kept' | 'none' | 'back'): Pick<Stepped, 'movedTo'> {
    const { runner, call } = this;
    if (trace !== 'kept') runner.leavesTrace = false;
    if (trace === 'back') runner.store.cutBack(runner.run.back.lastIndexOf(to));
    runner.effect({ type: 'go', from: runner.run.frame, to, transition, thread: call.thread.id });
    enterFrame(runner, to);
    return call.root === null ? {} : { movedTo: to };
  }

  layOver(overlay: Laid, transition: Transition): void {
    const { runner, call } = this;
    runner.put({ overlays: [...runner.run.overlays, overlay], over: [], pressed: null });
    runner.effect({ type: 'lay', frame: overlay.frame, transition, thread: call.thread.id });
    runner.enterRoot(overlay.frame);
  }

  lift = (transition: Transition): string => liftTop(this.runner, transition, this.call.thread.id);

  layer(path: string | null): ActedLayer | Stepped {
    const place = this.placeOfLayer(path);
    return isStepped(place) ? place : new LayerActing(this.runner, this.call, place);
  }

  private placeOfLayer(path: string | null): LayerPlace | Stepped {
    if (path === null) return notDone('missing-target', 'The thread does not say which layer yet.');
    const place = this.runner.placeFor(this.call, path);
    if (!place?.node) return notDone('missing-target', 'The layer it is about has been deleted.');
    if (!place.isOn) return notDone('not-here', `${place.node.layer.name} is not on the screen.`);
    return place as LayerPlace;
  }

  /** Where it is: after going elsewhere, there. */
  private get root(): string {
    return this.call.root ?? this.runner.run.frame;
  }

  states(of: string | undefined): ActedStates | Stepped {
    const { runner, call } = this;
    const place = of === undefined ? runner.find(call.instance.key || this.root) : runner.placeFor(call, of);
    if (!place) return notDone('missing-target', 'What it brings into a state has been deleted.');
    if (!place.isOn) return notDone('not-here', 'What it brings into a state is not on the screen.');
    return new StatesActing(runner, call, place);
  }

  time(of: string | undefined): ActedTime | Stepped {
    const { runner, call } = this;
    if (of === undefined) return new TimeActing(runner, this.root, null, runner.find(call.instance.key || this.root)!.instance);
    const place = this.placeOfLayer(of);
    return isStepped(place) ? place : new TimeActing(runner, place.root.scene, place.node, place.node.inside);
  }

  scrollToEdge(edge: 'top' | 'bottom', timing: Timing | undefined): void {
    scrollTo(this.runner, this.root, '', 0, edge === 'top' ? 0 : Infinity);
    showScrolling(this.runner, this.call, this.root, timing);
  }

  value = (expression: string): Value | null => this.runner.tryExpression(this.runner.run, this.call.instance, expression, this.call.thread.id);

  variableName = (variable: string): string | null => this.runner.program.variables.get(variable)?.name ?? null;

  setVariable = (variable: string, value: Value): string | null => this.runner.setVariableFrom(this.call.instance, variable, value);

  open(address: string, tab: 'same' | 'new', measure: string | null): void {
    this.runner.effect({ type: 'open', address, tab, measure, thread: this.call.thread.id });
  }

  send(signal: string): void {
    this.runner.effect({ type: 'signal', signal, thread: this.call.thread.id });
    this.runner.happen(`signal ${signal}`, () => this.runner.callsEverywhere({ type: 'signal', signal }));
  }
}

const SCROLLED = ['scrollX', 'scrollY'] as const;

/** Of a scene or a scrolling group. */
function showScrolling(runner: Runner, call: Call, of: string, timing: Timing | undefined): void {
  if (timing) runner.effect({ type: 'tween', of, names: SCROLLED, timing, thread: call.thread.id });
}

class LayerActing implements ActedLayer {
  constructor(
    private readonly runner: Runner,
    private readonly call: Call,
    private readonly at: LayerPlace
  ) {}

  get name(): string {
    return this.at.node.layer.name;
  }

  is(what: LayerFlag): boolean {
    const { root, node } = this.at;
    if (what === 'selected') return isSelected(root, node);
    return what === 'enabled' ? isEnabled(root, node) : isShown(this.runner.program, this.runner.run, root, node, false);
  }

  isBound = (what: LayerFlag): boolean => this.at.node.layer.bindings?.[what] !== undefined;

  set(what: LayerFlag, on: boolean): void {
    if (what === 'selected') this.runner.makeSelected(this.at, on);
    else if (what === 'enabled') this.runner.setEnabled(this.at, on);
    else this.runner.setShown(this.at, on);
  }

  showBy(transition: Transition): void {
    this.runner.effect({ type: 'show', of: this.at.node.key, transition, thread: this.call.thread.id });
  }

  get place(): { readonly x: number; readonly y: number } {
    return poseOf(this.runner.program, this.runner.run, this.at.root, this.at.node);
  }

  change(numbers: Partial<Record<ChangedNumber, number>>, timing: Timing | undefined): void {
    this.runner.change(this.at, numbers);
    if (timing) this.runner.effect({ type: 'tween', of: this.at.node.key, names: Object.keys(numbers), timing, thread: this.call.thread.id });
  }

  scrollTo(timing: Timing | undefined): boolean {
    const { runner, call } = this;
    const { root, node } = this.at;
    const { all } = standingRoot(runner.program, runner.run, root);
    const shown = all.find((one) => one.node === node);
    if (!shown) return false;
    const around = outwardNodes(node.parent).find(({ layer }) => layer.scroll);
    const box = boundsOf(shown);
    if (around) {
      const ground = boundsOf(all.find((one) => one.node === around)!);
      const old = root.scroll[around.key] ?? { x: 0, y: 0 };
      scrollTo(runner, root.scene, around.key, old.x + box.x - ground.x, old.y + box.y - ground.y);
    } else scrollTo(runner, root.scene, '', 0, (root.scroll['']?.y ?? 0) + box.y);
    showScrolling(runner, call, around?.key ?? root.scene, timing);
    return true;
  }
}

class StatesActing implements ActedStates {
  constructor(
    private readonly runner: Runner,
    private readonly call: Call,
    private readonly at: Place
  ) {}

  get name(): string {
    return this.at.node?.layer.name ?? this.at.instance.scene.scene.name;
  }

  get scene() {
    return this.at.instance.scene;
  }

  get now(): string | null {
    return stateOf(this.at.root, this.at.instance);
  }

  set(state: string): 'set' | 'there already' | 'bound' {
    if (this.now === state) return 'there already';
    if (boundState(this.at.root, this.at.instance)) return 'bound';
    this.runner.setState(this.at, state);
    return 'set';
  }

  showBy(transition: Transition): void {
    const { instance, root } = this.at;
    this.runner.effect({ type: 'show', of: instance.key || root.scene, transition, thread: this.call.thread.id });
  }
}

/** A scene's own timeline, a placement's, media, or all in a group. */
class TimeActing implements ActedTime {
  constructor(
    private readonly runner: Runner,
    private readonly scene: string,
    /** Null for the scene itself. */
    private readonly node: Node | null,
    private readonly instance: Instance | null
  ) {}

  get name(): string {
    return this.node?.layer.name ?? this.instance!.scene.scene.name;
  }

  private get timeline() {
    return this.instance?.scene.scene.timeline;
  }

  private took = (instance: Instance): Took =>
    this.runner.root(this.scene)?.heads[instance.key]?.playing ? { root: this.scene, instance: instance.key } : 0;

  playFrom(label: string): { readonly name: string; readonly took: Took } | null {
    const found = this.timeline?.labels?.[label];
    if (!found) return null;
    playInstance(this.runner, this.scene, this.instance!, found.time);
    return { name: found.name, took: this.took(this.instance!) };
  }

  show(label: string): string | null {
    const found = this.timeline?.labels?.[label];
    if (!found) return null;
    showFrame(this.runner, this.scene, this.instance!, found.time);
    return found.name;
  }

  play(from: 'here' | 'start'): Took | null {
    if (this.node) {
      const played = play(this.runner, this.scene, this.node, from);
      return played ? this.took(played) : 0;
    }
    return playInstance(this.runner, this.scene, this.instance!, from === 'start' ? 0 : null) ? this.took(this.instance!) : null;
  }

  turn(to: 'next' | 'previous'): { readonly name: string | null; readonly took: Took } | null {
    const { runner, scene, instance, timeline } = this;
    const root = runner.root(scene);
    if (!instance || !timeline || !root) return null;
    const sections = sectionsOf(timeline);
    const frame = currentFrame(runner.program, runner.run, root, instance) ?? 0;
    const now = sections.findIndex(({ from, to: last }) => frame >= from && frame <= last);
    const { label, from } = sections[(now + (to === 'next' ? 1 : sections.length - 1)) % sections.length]!;
    playInstance(runner, scene, instance, from);
    return { name: label === null ? null : timeline.labels![label]!.name, took: this.took(instance) };
  }

  pause(): void {
    if (this.node) pause(this.runner, this.scene, this.node);
    else pauseInstance(this.runner, this.scene, this.instance!);
  }
}
