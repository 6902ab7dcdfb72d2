import { sceneOfThread, type Piece, type Thread } from '../piece/piece.ts';
import { onceFor } from '../once.ts';
import type { Program } from '../program/program.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import { threadsIn } from './at-thread.ts';

/** What the steps of a thread do, without how it is shown. */
export const doneBy = onceFor((thread: Thread): readonly Step[] =>
  thread.branches.flatMap(({ steps }) => steps.filter((step) => step.do !== 'wait'))
);

/** As one text to compare: a frame by its id, however it is named. */
export function inWords(program: Program, scene: string | null, step: Step): string {
  const {
    transition: _transition,
    timing: _timing,
    with: _with,
    lasting: _lasting,
    replace: _replace,
    ...what
  } = step as unknown as Record<string, unknown>;
  const target = what['target'] as { readonly to: string; readonly frame?: string } | undefined;
  if (!target || scene === null) return JSON.stringify(what);
  const at = program.frameAt.get(scene);
  const by = target.to === 'next' ? 1 : target.to === 'previous' ? -1 : 0;
  const frame = by !== 0 && at !== undefined ? program.frames[at + by] : target.frame;
  return JSON.stringify({ ...what, target: frame ?? target });
}

/** In words all that threads do, as far as that counts of each, by the scene that they belong to; null for the piece. */
export function doneIn(program: Program, counts: (thread: Thread) => readonly Step[]): ReadonlyMap<string | null, ReadonlySet<string>> {
  const done = new Map<string | null, Set<string>>();
  for (const thread of threadsIn(program.piece)) {
    if (!thread.enabled) continue;
    const scene = sceneOfThread(program.piece, thread);
    const words = done.get(scene) ?? new Set();
    for (const step of counts(thread)) words.add(inWords(program, scene, step));
    done.set(scene, words);
  }
  return done;
}

/** Whose threads can be done on a frame: its own, those of the piece, and those of the sheets that it carries. */
export const around = ({ scenes }: Piece, scene: string | null): readonly (string | null)[] => [
  scene,
  null,
  ...((scene === null ? undefined : scenes.get(scene)?.carries) ?? []).map(({ sheet }) => sheet),
];
