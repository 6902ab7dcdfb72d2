import { expand } from '../program/expand.ts';
import type { Instance } from '../program/node.ts';
import { onceFor } from '../once.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { inEach } from './again.ts';
import { INITIAL, type Reading, type Slot, type Slots } from './slots.ts';

/** What a binding says a state is, and what it is where that is none. */
interface Said {
  readonly slot: Slot;
  readonly value: number;
  readonly own: Slot;
  readonly ownValue: number;
}

/** All that says which state something has come into: the same from edit to edit as long as every scene has the same of it. */
export const statesTold = (program: Program): ReadonlyMap<string, string> => inEach(program, 'states', statesWords);

const statesWords = onceFor((scene: SceneProgram): string =>
  JSON.stringify([
    scene.scene.stateIs,
    scene.states.map(({ id, name }) => [id, name]),
    scene.items.flatMap(({ layer }) => (layer.type === 'placement' ? [[layer.id, layer.parent, layer.part, layer.bindings?.state]] : [])),
  ])
);

/** Keeps account of the states that scenes and parts come into, by themselves or as a binding says. */
export class Entered {
  /** As `scene state`. */
  readonly all = new Set<string>();
  private readonly said = new Map<string, Said>();

  constructor(private readonly program: () => Program) {}

  private instanceOf(scene: string | null, key: string): Instance | undefined {
    const program = scene === null ? undefined : this.program().scenes.get(scene);
    return program && expand(this.program(), program).instances.get(key);
  }

  /** A slot has become something. */
  set(slot: Slot, value: number): void {
    if (slot.kind !== 'states' || value === INITIAL) return;
    this.come(slot.scene, slot.key, String(slot.values[value]));
  }

  /** A state is come into, and may be gone out of again at once. */
  come(scene: string | null, key: string, state: string): void {
    const instance = this.instanceOf(scene, key);
    // Where a binding says which state it is, that wins.
    if (instance && !isBound(instance)) this.all.add(`${instance.scene.scene.id} ${state}`);
  }

  /** A state is met: what bindings say in it, of what is on the screen, as far as that is explored here. */
  meet(slots: Slots, roots: readonly string[], here: Reading, isOwn: (column: number) => boolean): void {
    for (const said of saidIn(slots, roots, here, isOwn)) {
      const key = keyOf(said);
      if (this.said.has(key)) continue;
      this.said.set(key, said);
      this.say(said);
    }
  }

  /** Whether all that bindings say in a state was said before. */
  isMet(slots: Slots, roots: readonly string[], here: Reading, isOwn: (column: number) => boolean): boolean {
    return saidIn(slots, roots, here, isOwn).every((said) => this.said.has(keyOf(said)));
  }

  private say({ slot, value, own, ownValue }: Said): void {
    const instance = this.instanceOf(slot.scene, instanceKeyOf(slot));
    if (!instance) return;
    const state = instance.scene.states.find(({ name }) => name === slot.values[value])?.id ?? own.values[ownValue];
    if (state !== undefined) this.all.add(`${instance.scene.scene.id} ${String(state)}`);
  }

  /** Begins again, with what was said so far: what states are called may be another now. */
  again(): void {
    this.all.clear();
    for (const said of this.said.values()) this.say(said);
  }
}

function saidIn(slots: Slots, roots: readonly string[], here: Reading, isOwn: (column: number) => boolean): readonly Said[] {
  return slots.entering.flatMap((slot) => {
    if (!roots.includes(slot.scene!) || !(slot.follows?.columns ?? [slot.column]).every(isOwn)) return [];
    const own = slots.named(`${slot.scene}|states|${instanceKeyOf(slot)}`);
    const ownValue = own.column < 0 || !isOwn(own.column) ? INITIAL : here.at(own.column);
    return { slot, value: here.at(slot.column), own, ownValue };
  });
}

const keyOf = ({ slot, value, ownValue }: Said): string => `${slot.column} ${value} ${ownValue}`;

const instanceKeyOf = ({ key }: Slot): string => key.slice(0, key.lastIndexOf(':'));

const isBound = ({ placement, scene }: Instance): boolean => (placement ? placement.layer.bindings?.state : scene.scene.stateIs) !== undefined;
