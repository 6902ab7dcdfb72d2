import { waitsFor } from '../vocabulary/cues/all.ts';
import type { Thread } from '../piece/piece.ts';
import { threadsAt, type Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import type { Step } from '../vocabulary/steps/all.ts';

/** Presses that are kept up: where it can matter that something is held. */

/** Steps that only move what is looked at. */
const MOVING: ReadonlySet<Step['do']> = new Set(['tween', 'wait']);

/** Whether a thread does more than move something when something is pressed, or let go. */
export const answersHolding = ({ enabled, cue, branches }: Thread): boolean =>
  enabled && (waitsFor(cue, 'press') || waitsFor(cue, 'release')) && branches.some(({ steps }) => steps.some((step) => !MOVING.has(step.do)));

/** Whether a layer is held, to try it. */
export const isHeld = (node: Node): boolean => threadsAt(node).some(answersHolding);

/** Whether a scene, or the piece, answers where no layer takes what is held. */
export const isGroundHeld = (program: Program, root: SceneProgram): boolean => [...root.threads, ...program.threads].some(answersHolding);
