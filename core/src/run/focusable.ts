import type { Layer } from '../piece/piece.ts';
import { threadsAt, type Node } from '../program/node.ts';
import { waitsFor } from '../vocabulary/cues/all.ts';
import type { OccasionType } from '../vocabulary/occasions.ts';

/** What the keyboard comes to, and what of that it presses. */

const hears = (node: Node, ...types: readonly OccasionType[]): boolean =>
  threadsAt(node).some(({ enabled, cue }) => enabled && types.some((type) => waitsFor(cue, type)));

/** Whether Enter and space press a layer. */
export const takesClicks = (node: Node): boolean => hears(node, 'click');

/** Whether a layer can have the focus: a field, what is pressed, and what waits to have or to lose it. */
export const isFocusable = (node: Node): boolean =>
  node.layer.field !== undefined || (!isPassedOver(node.layer) && hears(node, 'click', 'focus', 'blur'));

/** The keyboard passes over what was said to be no more than something to read, or nothing at all. */
export const isPassedOver = ({ role }: Pick<Layer, 'role'>): boolean => role === 'none' || role === 'text';
