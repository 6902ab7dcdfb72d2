import { onceFor } from '../once.ts';
import { isMediaLayer } from '../vocabulary/layers/all.ts';
import { stepKind } from '../vocabulary/steps/all.ts';
import { namesIn, readsOf } from '../expression/ast.ts';
import type { Thread } from '../piece/piece.ts';
import type { Timeline } from '../piece/schema.ts';
import { fieldsOf } from '../piece/visit.ts';
import { expand, type Expansion } from '../program/expand.ts';
import { threadsAt, type Instance, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';

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

  /** The same as one text to compare. */
  wordsOf = (scene: string): string => [...this.standingIn(scene)].join();

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
  readonly threads: readonly Thread[];
  /** All that is named, alone or on the way to something. */
  readonly ids: ReadonlySet<string>;
  /** What expressions read: `layer.section`. */
  readonly reads: ReadonlySet<string>;
}

function spokenIn({ piece, parse }: Program): Spoken {
  const threads = [...piece.threads.values()].filter(isOn);
  const fields = [
    ...threads.flatMap((thread) => fieldsOf('threads', thread)),
    ...[...piece.layers.values()].filter(({ bindings }) => bindings).flatMap((layer) => fieldsOf('layers', layer)),
    ...[...piece.scenes.values()].filter(({ stateIs }) => stateIs).flatMap((scene) => fieldsOf('scenes', scene)),
  ].filter(({ path: [where], reads }) => where === 'cue' || where === 'branches' || reads === 'expression');
  const ids = new Set<string>();
  const reads = new Set<string>();
  for (const field of fields) {
    if (field.value === null) continue;
    for (const path of field.reads ? namesIn(field.value) : [field.value]) for (const id of path.split('/')) ids.add(id);
    const parsed = field.reads === 'expression' ? parse(field.value) : null;
    if (parsed?.ok) for (const key of readsOf(parsed.value)) reads.add(key);
  }
  return { threads, ids, reads };
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
