import { valueWords, type Value } from '../expression/ast.ts';
import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { isEnabled, isSelected, isShown } from '../run/resolve.ts';
import { nameOfState, valueOfField, valueOfVariable } from '../run/environment.ts';
import type { RunState } from '../run/state.ts';
import { beyondOf, beyondWords, type Counter } from './counters.ts';
import type { Exploration } from './exploration.ts';
import type { Moment } from './moment.ts';
import { tellingOf } from './telling.ts';

/**
 * What tells some states of a frame from its others, in words: `while Menu is Open`. What is said is so in all of the first
 * and in none of the others; where no single thing is, the state is named by its route alone: `in the state its route leads to`.
 */
export function whileWords(program: Program, { runOf }: Exploration, states: readonly number[], others: readonly number[]): string {
  const slots = slotsOf(program, runOf(states[0]!));
  const elsewhere = others.map((at) => slotsOf(program, runOf(at)));
  const along = states.map((at) => slotsOf(program, runOf(at)));
  const telling = [...slots].filter(
    ([key, words]) => along.every((one) => one.get(key) === words) && elsewhere.every((one) => one.get(key) !== words)
  );
  return telling.length ? `while ${telling[0]![1]}` : 'in the state that its route leads to';
}

/** What can be said of a run, by what it is about, causes first: `Menu is Open`, `Seats is 0`, `Pay is disabled`. */
function slotsOf(program: Program, run: RunState): Map<string, string> {
  const slots = new Map<string, string>();
  const name = (frame: string) => program.piece.scenes.get(frame)?.name ?? 'a frame';
  const { shownOnly, counters } = tellingOf(program);
  const top = run.overlays.at(-1);
  slots.set('overlay', top ? `${name(top.frame)} lies over it` : 'nothing lies over it');
  for (const variable of program.variables.values())
    if (variable.scene === null && !shownOnly.has(variable.id))
      slots.set(
        `variable ${variable.id}`,
        `${variable.name} is ${countedWords(counters.get(variable.id), valueOfVariable(program, run, variable.id, variable.id))}`
      );
  for (const [id, root] of Object.entries(run.roots)) {
    const scene = program.scenes.get(id);
    if (!scene) continue;
    const { instances, nodes } = expand(program, scene);
    for (const instance of instances.values())
      if (instance.scene.states.length)
        slots.set(`state ${instance.key || id}`, `${instance.placement?.layer.name ?? scene.scene.name} is in ${nameOfState(root, instance)}`);
    for (const node of nodes) {
      const { key } = node;
      const layer = node.layer.name;
      slots.set(`shown ${key}`, `${layer} is ${isShown(program, run, root, node) ? 'shown' : 'hidden'}`);
      slots.set(`enabled ${key}`, `${layer} is ${isEnabled(root, node) ? 'enabled' : 'disabled'}`);
      slots.set(`chosen ${key}`, `${layer} is ${isSelected(root, node) ? 'selected' : 'not selected'}`);
      const value = valueOfField(root, node);
      if (typeof value === 'string' || typeof value === 'number')
        slots.set(`value ${key}`, `${layer} holds ${value === '' ? 'nothing' : shortWords(value)}`);
    }
  }
  return slots;
}

/** A value of a variable; of a counter that is beyond all that it is held against, that it is. */
const countedWords = (counter: Counter | undefined, value: Value): string =>
  counter && beyondOf(counter, value) ? beyondWords(counter, value) : shortWords(value);

/** So many signs of a text are said. */
const MOST_SIGNS = 60;

function shortWords(value: Value): string {
  const words = valueWords(value);
  return words.length > MOST_SIGNS ? `${words.slice(0, MOST_SIGNS)}…` : words;
}

/** Added to a sentence about what was first met at a moment: nothing where that is how the piece begins. */
export const whenOf = (at: Moment): string => (at.route().length ? ', in the state that its route leads to' : '');
