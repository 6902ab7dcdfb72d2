import { onceFor } from '../once.ts';
import type { Layer, Thread } from '../piece/piece.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { asBefore, before } from './again.ts';
import { threadsIn } from './at-thread.ts';

/**
 * Layers with a look for when they are selected, that can be: they are at first, by a binding, as a field or one of a choice, or by a step
 * that names them. The same set from edit to edit as long as the same can be.
 */
export function selectableIn(program: Program): ReadonlySet<string> {
  const { scenes, piece } = program;
  return asBefore(program, 'selectable', [scenes, piece.threads], () => {
    const asked = [...scenes.values()].flatMap(askedIn);
    if (asked.length === 0) return NONE;
    const named = new Set(threadsIn(piece).flatMap(selectedBy));
    const found = new Set(asked.filter((layer) => isSelectable(layer) || named.has(layer.id)).map(({ id }) => id));
    const { old, keep } = before<ReadonlySet<string>>(program, 'selected');
    return old?.size === found.size && [...found].every((id) => old.has(id)) ? old : keep(found);
  });
}

const NONE: ReadonlySet<string> = new Set();

const askedIn = onceFor(({ items }: SceneProgram): readonly Layer[] =>
  items.flatMap(({ layer }) => (layer.looks?.selected || layer.looks?.selectedHover ? layer : []))
);

const isSelectable = ({ selected, bindings, field, choice }: Layer): boolean =>
  selected === true || bindings?.selected !== undefined || field !== undefined || choice !== undefined;

const selectedBy = onceFor(({ enabled, branches }: Thread): readonly string[] =>
  enabled
    ? branches.flatMap(({ steps }) =>
        steps.flatMap((step) => (step.do === 'select' && step.what !== 'off' && step.layer !== null ? step.layer.split('/').at(-1)! : []))
      )
    : []
);
