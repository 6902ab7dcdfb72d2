import { namesIn } from '../expression/ast.ts';
import { onceFor } from '../once.ts';
import type { Layer, Scene, Thread } from '../piece/piece.ts';
import { fieldsOf } from '../piece/visit.ts';
import type { Program, SceneProgram } from '../program/program.ts';

/** What is said of variables: which are set somewhere, and which are read. */
export interface Mentions {
  readonly set: ReadonlySet<string>;
  readonly read: ReadonlySet<string>;
}

/** Of all variables of a piece. To compute what a variable is set to from itself is not to read it. */
export function mentionsIn(program: Program): Mentions {
  const [set, read] = [new Set<string>(), new Set<string>()];
  const add = (one: Mentions) => {
    for (const id of one.set) set.add(id);
    for (const id of one.read) read.add(id);
  };
  for (const scene of program.scenes.values()) add(inScene(scene));
  for (const thread of program.threads) add(inThread(thread));
  return { set, read };
}

const inScene = onceFor((scene: SceneProgram): Mentions => {
  const parts = [
    inEntity('scenes', scene.scene),
    ...scene.threads.map(inThread),
    ...scene.items.flatMap(({ layer, threads }) => [inEntity('layers', layer), ...threads.map(inThread)]),
  ];
  return { set: new Set(parts.flatMap((one) => [...one.set])), read: new Set(parts.flatMap((one) => [...one.read])) };
});

const inThread = onceFor((thread: Thread): Mentions => inEntity('threads', thread));

const NOTHING: Mentions = { set: new Set(), read: new Set() };

function inEntity(table: 'layers' | 'scenes' | 'threads', entity: Layer | Scene | Thread): Mentions {
  const fields = fieldsOf(table, entity);
  if (fields.length === 0) return NOTHING;
  const [set, read] = [new Set<string>(), new Set<string>()];
  for (const { refers, reads, value, path, holder } of fields) {
    if (value === null) continue;
    if (refers === 'variable') (path[0] === 'cue' ? read : set).add(value);
    const own = reads && path.at(-1) === 'value' ? holder['variable'] : undefined;
    if (reads) for (const name of namesIn(value)) if (name !== own) read.add(name);
  }
  return { set, read };
}
