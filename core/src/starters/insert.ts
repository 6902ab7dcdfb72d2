import { compose } from '../compose/compose.ts';
import { placePart } from '../edit/commands/parts.ts';
import { renamedTables } from '../edit/commands/remap.ts';
import { keysBetween } from '../edit/order.ts';
import type { Operation } from '../edit/operation.ts';
import { apply } from '../edit/apply.ts';
import { scenesOf, statesOf, type Piece } from '../piece/piece.ts';
import type { Starter } from './starter.ts';

/** Puts a starter part into a piece, once, and a placement of it into a scene. A piece that has it already gets another placement. */
export function insertStarter(
  piece: Piece,
  starter: Starter,
  scene: string,
  makeId: () => string,
  middle?: { x: number; y: number }
): { operations: Operation[]; placement: string | null } {
  const known = scenesOf(piece, 'part').find((part) => part.name === starter.name);
  const placement = makeId();
  if (known) {
    const operations = placePart(piece, scene, known.id, placement, middle);
    return { operations, placement: operations.length ? placement : null };
  }
  const made = partsOf(piece, starter, makeId);
  const applied = apply(piece, made);
  if (!applied.ok) return { operations: [], placement: null };
  const part = scenesOf(applied.value.piece, 'part').find((one) => one.name === starter.name)!;
  const placed = placePart(applied.value.piece, scene, part.id, placement, middle);
  return { operations: [...made, ...placed], placement: placed.length ? placement : null };
}

/** The parts of a starter with ids of their own, behind the parts that are there. */
function partsOf(piece: Piece, starter: Starter, makeId: () => string): Operation[] {
  const source = compose({ parts: starter.parts, frames: {} });
  const ids = [...source.scenes.keys(), ...source.layers.keys(), ...source.threads.keys(), ...source.variables.keys()];
  const states = [...source.scenes.values()].flatMap((scene) => statesOf(scene).map((state) => state.id));
  const names = new Map([...ids, ...states].map((id) => [id, makeId()]));
  const { scenes: parts, variables, layers, threads } = renamedTables(source, names);
  const keys = keysBetween(scenesOf(piece, 'part').at(-1)?.order ?? null, null, source.scenes.size);
  const order = scenesOf(source, 'part').map(({ id }) => names.get(id));
  const scenes = parts.map((scene) => ({ ...scene, order: keys[order.indexOf(scene.id)]! }));
  const put = (table: 'scenes' | 'layers' | 'threads' | 'variables', values: readonly { id: string }[]): Operation[] =>
    values.map((value) => ({ op: 'put', table, value }));
  return [...put('scenes', scenes), ...put('variables', variables), ...put('layers', layers), ...put('threads', threads)];
}
