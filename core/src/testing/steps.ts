import { transitionKinds } from '../vocabulary/transitions/all.ts';
import { cueKinds } from '../vocabulary/cues/all.ts';
import type { Cue } from '../vocabulary/cues/all.ts';
import type { Form, Part, Slot } from '../fields/forms.ts';
import { withField } from '../lines/form.ts';
import { fieldAt } from '../fields/forms.ts';
import type { LineScope, Named } from '../lines/scope.ts';
import { stepKinds } from '../vocabulary/steps/all.ts';
import { PLACES } from '../vocabulary/places.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import { DIRECTIONS } from '../vocabulary/directions.ts';

/** Random cues and steps made from the very tables that people choose from, so that no kind is left out. */

type Random = () => number;

const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)]!;

const texts = ['hello', 'a b', 'x · y', 'it; then', '"quoted"', '→', 'with', 'back\\slash', '?', 'otherwise', '3 s'];
const easings = ['ease-out', 'linear', 'cubic-bezier(0.2, 0.8, 0.2, 1)', 'spring(0.4)', 'overshoot(0.2)', 'steps(4, jump-none)'];

const timing = (random: Random) => ({
  ms: pick(random, [0, 300, 1500, 62.5]),
  easing: pick(random, easings),
  ...(random() < 0.3 && { delay: pick(random, [50, 1000]) }),
  ...(random() < 0.3 && { stagger: { by: pick(random, ['order', 'distance'] as const), ms: 40 } }),
});

const transition = (random: Random) => {
  const { type, hasDirection } = pick(random, Object.values(transitionKinds));
  return type === 'cut' ? { type } : { type, ...(hasDirection && { direction: pick(random, DIRECTIONS) }), ...timing(random) };
};

const idOf = (random: Random, things: readonly Named[]): string | null | undefined =>
  random() < 0.1 ? null : random() < 0.05 ? 'gone1' : things.length ? pick(random, things).id : null;

function valueFor(random: Random, slot: Slot, whole: unknown, scope: LineScope): unknown {
  const of = slot.of === undefined ? undefined : (fieldAt(whole, slot.of) as string | undefined);
  switch (slot.kind) {
    case 'target':
      return random() < 0.3 ? { to: pick(random, PLACES) } : { to: 'frame', frame: idOf(random, scope.frames) };
    case 'frame':
      return idOf(random, scope.frames);
    case 'layer':
      return slot.path === 'to.layer' ? pick(random, scope.layers)?.id : idOf(random, scope.layers);
    case 'stateful':
      return pick(random, scope.stateful)?.id;
    case 'playable':
      return pick(random, scope.playable)?.id;
    case 'variable':
      return idOf(random, scope.variables);
    case 'state':
      return idOf(random, scope.statesOf(of));
    case 'label':
      return idOf(random, scope.labelsOf(of));
    case 'words':
      return pick(random, Object.values(slot.words!));
    case 'number':
      return pick(random, [0, 3, 42]);
    case 'percent':
      return pick(random, [0, 0.4, 1]);
    case 'duration':
      return pick(random, [1, 300, 2000, 1500]);
    case 'text':
    case 'quoted':
    case 'key':
      return pick(random, texts);
    case 'address':
      return pick(random, ['https://kittiwake.example/a b', 'x in new tab', 'mailto:a@b.example', 'as', 'a as', '', 'https://a.example/?q=1;2']);
    case 'expression':
      return pick(random, expressions(scope));
    case 'transition':
      return transition(random);
    case 'timing':
      return random() < 0.3 ? undefined : timing(random);
  }
}

const expressions = (scope: LineScope): string[] => {
  const names = scope.variables.map((variable) => `‹${variable.id}›`);
  const layer = scope.layers[0];
  return [
    '0',
    '-12.5',
    'max(1, 2) + 3',
    '"a; b → c"',
    ...names,
    ...names.map((name) => `${name} + 1`),
    ...(layer ? [`‹${layer.id}›.x * 2`, `if ‹${layer.id}›.selected then 1 else 2`] : []),
  ];
};

function fill(random: Random, form: Form, scope: LineScope): unknown {
  let value: unknown = {};
  for (const [path, field] of Object.entries(form.sets)) if (field !== undefined) value = withField(value, path, field);
  const put = (part: Part): void => {
    if (typeof part === 'string') return;
    if ('maybe' in part) {
      if (random() < 0.5) part.maybe.forEach(put);
      return;
    }
    const field = valueFor(random, part, value, scope);
    if (field !== undefined) value = withField(value, part.path, field);
  };
  form.parts.forEach(put);
  return value;
}

export const randomStepOf = (random: Random, scope: LineScope, type?: Step['do']): Step => {
  const kind = type ? stepKinds[type] : pick(random, Object.values(stepKinds));
  return { ...(fill(random, pick(random, kind.forms), scope) as Step), ...(random() < 0.1 && { lasting: true as const }) };
};

export const randomCueOf = (random: Random, scope: LineScope, type?: Cue['type']): Cue => {
  const kind = type ? cueKinds[type] : pick(random, Object.values(cueKinds));
  return fill(random, pick(random, kind.forms), scope) as Cue;
};

export const randomCondition = (random: Random, scope: LineScope): string =>
  pick(random, ['true', ...scope.variables.map((variable) => `‹${variable.id}› > 3`), '"→" = "x"']);
