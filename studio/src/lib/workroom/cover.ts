import { compile, pieceFromTrusted, type PieceJson, type Program, type SceneProgram } from '@zany/core';

/** What a cover shows, to be drawn: its piece and the frame. */
export interface DrawnCover {
  readonly program: Program | null;
  readonly scene: SceneProgram | null;
}

/** A piece of one frame as a cover draws it. One that cannot be drawn must not keep the others from being. */
export function drawnCover(cover: PieceJson | null): DrawnCover {
  try {
    const program = cover ? compile(pieceFromTrusted(cover)) : null;
    return { program, scene: program?.scenes.get(program.frames[0]!) ?? null };
  } catch {
    return { program: null, scene: null };
  }
}
