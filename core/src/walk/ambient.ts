import { onceFor } from '../once.ts';
import { isMediaLayer } from '../vocabulary/layers/all.ts';
import { stepKind, type Step } from '../vocabulary/steps/all.ts';
import { marksOf, sectionAt, sectionsOf } from '../run/playhead.ts';
import { branchKey } from '../run/runner.ts';
import type { Playhead } from '../run/state.ts';
import { namesIn, readsOf } from '../expression/ast.ts';
import type { Thread } from '../piece/piece.ts';
import type { Timeline } from '../piece/schema.ts';
import { fieldsOf } from '../piece/visit.ts';
import { expand, type Expansion } from '../program/expand.ts';
import { outwardNodes, threadsAt, type Instance, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { tellingOf } from './telling.ts';

/**
 * Timelines that only move what is looked at: waves that roll, a gull that flaps. Nothing begins, ends or can be pressed by them, and
 * nothing in the piece speaks of them, so wherever they are, what can come next is the same. Exploring lets them stand.
 */
export class Ambient {
  private readonly known = new Map<Expansion, ReadonlySet<string>>();
  private made: Spoken | null = null;

  constructor(private readonly program: Program) {}

  private get spoken(): Spoken {
    return (this.made ??= spokenIn(this.program));
  }

  /** The instances of a scene whose timelines only move what is looked at, by their keys. */
  standingIn(scene: string): ReadonlySet<string> {
    const sceneProgram = this.program.scenes.get(scene);
    const expansion = sceneProgram && expand(this.program, sceneProgram);
    return expansion && hasTime(expansion) ? this.inScene(expansion) : NONE;
  }

  /** Whether a playhead goes round and round and nothing comes of it, nor waits for its end: wherever it is, what can come next is the same. */
  isIdle(scene: string, instance: Instance, head: Playhead, isAwaited: (instance: Instance) => boolean): boolean {
    const { timeline } = instance.scene.scene;
    const section = timeline && sectionAt(timeline, head.at);
    if (!section || head.at !== section.from || !this.roundsIn(scene, instance).has(section.from)) return false;
    return !isAwaited(instance);
  }

  private readonly rounds = new Map<Instance, ReadonlySet<number>>();

  /** Where sections begin that go round for ever and nothing comes of them. */
  private roundsIn(scene: string, instance: Instance): ReadonlySet<number> {
    let found = this.rounds.get(instance);
    if (!found) this.rounds.set(instance, (found = new Set(this.isTurning(scene, instance) ? quietRounds(this.program, instance) : [])));
    return found;
  }

  /** Whether all that a timeline moves does nothing, and nothing stops it or goes on with it midway. */
  private isTurning(scene: string, { key, placement, scene: { scene: own } }: Instance): boolean {
    const { timeline } = own;
    const program = this.program.scenes.get(scene);
    if (!program || !timeline || program.scene.onReturn === 'remember' || placement?.layer.reentry === 'go on') return false;
    const paths = Object.values(timeline.tracks ?? {}).map(({ layer }) => (key === '' ? layer : `${key}/${layer}`));
    const moved = expand(this.program, program).nodes.filter((node) => paths.some((path) => node.key === path || isUnder(node, path)));
    if (moved.some((node) => !doesNothing(node) || this.spoken.ids.has(node.layer.id))) return false;
    const around = new Set(placement ? outwardNodes(placement).map(({ layer }) => layer.id) : []);
    const isAbout = (of: unknown) => (of === undefined ? placement === null : around.has(String(of).split('/').at(-1)!));
    const midway = (step: Step) =>
      (step.do === 'pause' || step.do === 'section' || (step.do === 'play' && step.from === undefined)) && isAbout(step.of);
    if (this.spoken.threads.some(({ branches }) => branches.some(({ steps }) => steps.some(midway)))) return false;
    const outer = placement ? placement.instance.scene.scene.timeline : undefined;
    return !Object.values(outer?.cues ?? {}).some((cue) => cue.do !== 'start over' && isAbout(cue.layer));
  }

  /** The same as one text to compare. */
  wordsOf = (scene: string): string => [...this.standingIn(scene)].join();

  /**
   * Branches of which a step sets going or stops what stands, sets what only texts show, or counts on, by `branchKey`: that is to be
   * seen, though nothing is told to be another for it.
   */
  get stirring(): ReadonlySet<string> {
    return (this.stirred ??= this.branchesThatStir());
  }

  private stirred: ReadonlySet<string> | null = null;

  private branchesThatStir(): ReadonlySet<string> {
    const { asides, threads } = this.spoken;
    const found = new Set<string>();
    const { shownOnly: only, counters } = tellingOf(this.program);
    if (asides.size === 0 && only.size === 0 && counters.size === 0) return found;
    const isCounting = (step: Step & { readonly do: 'set' }) => counters.has(step.variable ?? '') && namesIn(step.value).length > 0;
    const { layers } = this.program.piece;
    const standing = new Set<string>();
    for (const scene of asides.size ? this.program.scenes.keys() : [])
      for (const key of this.standingIn(scene))
        for (let at = layers.get(key.split('/').at(-1)!); at; at = at.parent === null ? undefined : layers.get(at.parent)) standing.add(at.id);
    for (const { id, branches } of threads)
      branches.forEach(({ steps }, i) => {
        const stirs = (step: Step) =>
          step.do === 'set'
            ? only.has(step.variable ?? '') || isCounting(step)
            : asides.has(step) && 'of' in step && standing.has(String(step.of).split('/').at(-1)!);
        if (steps.some(stirs)) found.add(branchKey(id, i));
      });
    return found;
  }

  private inScene(expansion: Expansion): ReadonlySet<string> {
    let found = this.known.get(expansion);
    if (!found) {
      found = new Set([...expansion.instances.values()].filter((one) => this.isAmbient(expansion, one)).map(({ key }) => key));
      this.known.set(expansion, found);
    }
    return found;
  }

  private isAmbient(expansion: Expansion, instance: Instance): boolean {
    const { scene } = instance.scene;
    if (!scene.timeline || !onlyMoves(scene.timeline)) return false;
    const inside = expansion.nodes.filter((node) => node.key !== instance.key && (instance.key === '' || node.key.startsWith(`${instance.key}/`)));
    return instance.placement ? this.isStillClip(instance.placement, inside) : this.isStillScene(scene.id, scene.timeline, inside);
  }

  /** A placed part of which nobody speaks, with nothing in it that does anything. */
  private isStillClip(placement: Node, inside: readonly Node[]): boolean {
    for (let at: Node | null = placement; at; at = at.parent) if (this.spoken.ids.has(at.layer.id)) return false;
    const part = placement.inside!.scene;
    if (part.threads.some(isOn) || this.spoken.reads.has(`${part.scene.id}.section`)) return false;
    return inside.every((node) => doesNothing(node) && (!node.inside?.scene.scene.timeline || onlyMoves(node.inside.scene.scene.timeline)));
  }

  /** A scene that nothing plays or pauses, and in which only what does nothing moves. */
  private isStillScene(scene: string, timeline: Timeline, inside: readonly Node[]): boolean {
    if (Object.keys(timeline.labels ?? {}).length || this.spoken.reads.has(`${scene}.section`)) return false;
    if (
      this.spoken.threads.some(({ branches }) =>
        branches.some(({ steps }) => steps.some((step) => stepKind(step.do).inTime && !('of' in step && step.of)))
      )
    )
      return false;
    const paths = Object.values(timeline.tracks ?? {}).map(({ layer }) => layer);
    return inside.every(
      (node) => !paths.some((path) => node.key === path || isUnder(node, path)) || (doesNothing(node) && !this.spoken.ids.has(node.layer.id))
    );
  }
}

const NONE: ReadonlySet<string> = new Set();

/** Whether there is any timeline in a scene or in what is placed in it. */
const hasTime = onceFor(({ instances }: Expansion): boolean => [...instances.values()].some(({ scene }) => scene.scene.timeline !== undefined));

/** What is spoken of where it can make a difference: by threads, bindings, and what a scene's state is. */
interface Spoken {
  /** Steps that set a clip going, stop it or turn it, and after which nothing waits for it: it is only seen. */
  readonly asides: ReadonlySet<Step>;
  readonly threads: readonly Thread[];
  /** All that is named, alone or on the way to something. */
  readonly ids: ReadonlySet<string>;
  /** What expressions read: `layer.section`. */
  readonly reads: ReadonlySet<string>;
}

function spokenIn({ piece, parse }: Program): Spoken {
  const threads = [...piece.threads.values()].filter(isOn);
  const asides = new Set(threads.flatMap(({ branches }) => branches.flatMap(({ steps }) => steps.filter((step, i) => isAside(steps, step, i)))));
  const fields = [
    ...threads.flatMap((thread) => fieldsOf('threads', thread)),
    ...[...piece.layers.values()].filter(({ bindings }) => bindings).flatMap((layer) => fieldsOf('layers', layer)),
    ...[...piece.scenes.values()].filter(({ stateIs }) => stateIs).flatMap((scene) => fieldsOf('scenes', scene)),
  ].filter(({ path: [where], reads, root }) => (where === 'cue' || where === 'branches' || reads === 'expression') && !asides.has(root as Step));
  const ids = new Set<string>();
  const reads = new Set<string>();
  for (const field of fields) {
    if (field.value === null) continue;
    for (const path of field.reads ? namesIn(field.value) : [field.value]) for (const id of path.split('/')) ids.add(id);
    const parsed = field.reads === 'expression' ? parse(field.value) : null;
    if (parsed?.ok) for (const key of readsOf(parsed.value)) reads.add(key);
  }
  return { asides, threads, ids, reads };
}

function quietRounds({ piece }: Program, { scene: { scene } }: Instance): number[] {
  const timeline = scene.timeline!;
  const heard = new Set([...piece.threads.values()].flatMap(({ cue }) => (cue.type === 'label' && cue.label ? cue.label : [])));
  const marks = [...marksOf(timeline), ...Object.entries(timeline.labels ?? {}).flatMap(([id, { time }]) => (heard.has(id) ? time : []))];
  return sectionsOf(timeline).flatMap(({ from, to, ending }) =>
    ending.do === 'loop' && ending.times === undefined && !marks.some((mark) => mark >= from && mark <= to) ? from : []
  );
}

function isAside(steps: readonly Step[], step: Step, at: number): boolean {
  const { inTime } = stepKind(step.do);
  if (!inTime || !('of' in step) || step.of === undefined) return false;
  let next = at + 1;
  while (steps[next]?.with) next++;
  return inTime === 'changes' || next === steps.length;
}

const isOn = ({ enabled }: Thread) => enabled;

/** Nothing comes or goes by it, and it sets nothing off. */
const onlyMoves = ({ spans = {}, cues = {} }: Timeline): boolean => Object.keys(spans).length === 0 && Object.keys(cues).length === 0;

const doesNothing = (node: Node): boolean => !node.catches && !isMediaLayer(node.layer) && !threadsAt(node).some(isOn);

function isUnder(node: Node, path: string): boolean {
  if (node.key.startsWith(`${path}/`)) return true;
  for (let at = node.parent; at; at = at.parent) if (at.key === path) return true;
  return false;
}
