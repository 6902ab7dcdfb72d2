import type { Thread } from '../piece/piece.ts';
import { onceFor } from '../once.ts';
import type { Program } from '../program/program.ts';
import type { Step } from '../vocabulary/steps/all.ts';

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
