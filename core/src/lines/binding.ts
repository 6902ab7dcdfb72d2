import { displayExpression } from '../expression/names.ts';
import { BINDABLE, type Bindable } from '../piece/bindable.ts';
import { fail, ok, type Result } from '../result.ts';
import { LineError, LineReader } from './reader.ts';
import { slots } from './slots.ts';
import type { LineScope } from './scope.ts';

/** Bindings as lines: `enabled when Terms.selected`, `x is Count * 40`. */

export interface LineBinding {
  readonly what: Bindable;
  /** The stored expression. */
  readonly value: string;
}

/** How a binding of each property begins. */
export const bindingWords: { readonly [B in Bindable]: string } = {
  shown: 'shown when',
  enabled: 'enabled when',
  selected: 'selected when',
  state: 'state is',
  x: 'x is',
  y: 'y is',
  width: 'width is',
  height: 'height is',
  rotation: 'rotation is',
  scale: 'scale is',
  opacity: 'opacity is',
};

const isCondition = (what: Bindable) => what === 'shown' || what === 'enabled' || what === 'selected';

export const printBinding = ({ what, value }: LineBinding, scope: LineScope): string =>
  `${bindingWords[what]} ${displayExpression(value, scope.expression).text}`;

/** What can be bound of a scene itself: the state that it is in. */
export const SCENE_BINDABLE: readonly Bindable[] = ['state'];

/** Whether a line is about a binding, complete or not. */
export const beginsBinding = (text: string, kinds: readonly Bindable[] = BINDABLE): boolean =>
  kinds.some((what) => text.trimStart().toLowerCase().startsWith(bindingWords[what]) || text.trim().toLowerCase() === what);

export function parseBinding(text: string, scope: LineScope): Result<LineBinding, LineError> {
  const reader = new LineReader(text);
  try {
    return ok(readBinding(reader, scope));
  } catch (error) {
    if (error instanceof LineError) return fail(error);
    throw error;
  }
}

/** Reads a whole line as a binding. Conditions that are likely from what is in the scene are offered whole. */
export function readBinding(reader: LineReader, scope: LineScope): LineBinding {
  reader.offer(
    BINDABLE.filter(isCondition).flatMap((what) => likely(scope).map((condition) => `${bindingWords[what]} ${condition}`)),
    true
  );
  const written = reader.word(Object.values(bindingWords));
  const what = BINDABLE.find((one) => bindingWords[one] === written);
  if (what === undefined) reader.fail('shown when, enabled when, selected when, or a property with “is”');
  if (isCondition(what)) reader.offer(likely(scope), true);
  const value = slots.expression.read(reader, { scope, slot: { path: what, kind: 'expression' }, whole: {} })!;
  if (!reader.done) reader.fail('the end of the line');
  return { what, value };
}

/** Conditions on what can be selected in the scene: boxes to tick, and layers that begin selected or not. */
function likely({ conditions }: LineScope): readonly string[] {
  return conditions.slice(0, 12);
}
