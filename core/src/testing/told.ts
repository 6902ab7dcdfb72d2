import { compose, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { replay, start } from '../run/run.ts';
import type { Advanced, RunEvent, RunState } from '../run/state.ts';

/** A piece of one frame, `home`, whose threads mostly count; which of them fire, and why others do not, is what is asked. */
export function told(
  spec: Omit<ComposeSpec, 'frames'> & { readonly frames?: ComposeSpec['frames'] },
  layers: ComposeSpec['frames'][string]['layers'] = {},
  lines: string[] = []
) {
  const made = compose({
    frames: { home: { layers, lines } },
    ...spec,
    variables: { n: { type: 'number', initial: 0 }, ...spec.variables },
  });
  const program = compile(made);
  /** What fired, as `owner: cue`. */
  const toldOf = ({ reports }: Advanced) =>
    reports.flatMap(({ fired }) =>
      fired.map(({ thread }) => {
        const { owner, cue } = made.threads.get(thread)!;
        return `${made.layers.get(owner)?.name ?? made.scenes.get(owner)?.name ?? 'piece'}: ${cue.type}`;
      })
    );
  const whysOf = ({ reports }: Advanced) => reports.flatMap(({ whyNot }) => whyNot.map(({ code }) => code));
  const from = (state: RunState, ...events: RunEvent[]) => {
    const done = replay(program, state, events);
    return { run: done.run, told: toldOf(done), whys: whysOf(done), reports: done.reports };
  };
  const begun = start(program)!;
  return { made, program, begun, from, run: (...events: RunEvent[]) => from(begun, ...events) };
}

/** Threads that only count, for cues as they are written. */
export const counting = (...cues: string[]): string[] => cues.map((cue) => `${cue} → set n to n + 1`);
