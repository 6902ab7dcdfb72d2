import type { Layer, Piece } from '../../piece/piece.ts';
import { update, type Program } from '../../program/program.ts';
import { setAll } from '../../table.ts';

/**
 * The program with some layers of a scene shown, whatever hides them or what they are in: themselves, a state that it is posed in, a
 * binding, or a span of time. They stand as they stand in the program that is given, so a posed one is given for a state or a moment.
 */
export function unveiled(program: Program, scene: string, ids: readonly string[]): Program {
  const { piece } = program;
  const own = piece.scenes.get(scene);
  if (!own) return program;
  const veiled = new Set(ids.flatMap((id) => withOuter(piece, id)));
  const layers = setAll(
    piece.layers,
    [...veiled].flatMap((id) => {
      const layer = piece.layers.get(id);
      return layer?.scene === scene ? [[id, shown(layer)] as const] : [];
    })
  );
  const { timeline: _timeline, ...still } = own;
  const touched = { scenes: new Set([scene]), frames: false, pieceThreads: false, variables: false };
  return update(program, { ...piece, layers, scenes: piece.scenes.set(scene, still) }, touched);
}

function withOuter(piece: Piece, id: string): string[] {
  const ids: string[] = [];
  for (let at: string | null = id; at !== null; at = piece.layers.get(at)?.parent ?? null) ids.push(at);
  return ids;
}

function shown({ hidden: _hidden, bindings, ...layer }: Layer): Layer {
  if (!bindings) return layer;
  const { shown: _shown, ...others } = bindings;
  return Object.keys(others).length ? { ...layer, bindings: others } : layer;
}
