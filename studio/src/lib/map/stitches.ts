import { printLine, scopeFor, type Program, type Rect, type Thread } from '@zany/core';

export interface Stitch {
  readonly thread: Thread;
  readonly from: string;
  readonly to: string;
  /** Where it starts on the frame, in the frame's own space; null for the frame as a whole. */
  readonly box: Rect | null;
  readonly words: string;
  /** The frame is laid over the one that it starts on. */
  readonly isLaid: boolean;
}

/** Every go-to of every frame that leads to one known frame, with the layer it starts at. */
export function stitchesOf(program: Program): Stitch[] {
  return program.frames.flatMap((id, at) => {
    const scene = program.scenes.get(id)!;
    const owned = [
      ...scene.items.flatMap((item) => item.threads.map((thread) => ({ thread, box: item.box as Rect | null }))),
      ...scene.threads.map((thread) => ({ thread, box: null })),
    ];
    return owned.flatMap(({ thread, box }) =>
      thread.branches
        .flatMap((branch) => branch.steps)
        .flatMap((step): Stitch[] => {
          if ((step.do !== 'go' && step.do !== 'lay') || !thread.enabled) return [];
          const target = step.do === 'lay' ? ({ to: 'frame', frame: step.frame } as const) : step.target;
          const to =
            target.to === 'frame'
              ? target.frame
              : {
                  next: program.frames[at + 1],
                  previous: program.frames[at - 1],
                  first: program.frames[0],
                  last: program.frames.at(-1),
                  start: program.piece.head.start[0],
                  back: undefined,
                }[target.to];
          return to && to !== id && program.scenes.has(to)
            ? [{ thread, from: id, to, box, words: printLine(thread, scopeFor(program.piece, thread)), isLaid: step.do === 'lay' }]
            : [];
        })
    );
  });
}
