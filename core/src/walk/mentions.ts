import { namesIn } from '../expression/ast.ts';
import { onceFor } from '../once.ts';
import type { Layer, Scene, Thread } from '../piece/piece.ts';
import { fieldsOf } from '../piece/visit.ts';
import type { Program, SceneProgram } from '../program/program.ts';

/** What is said of variables: which are set somewhere, and which are read. */
export interface Mentions {
  readonly set: ReadonlySet<string>;
  readonly read: ReadonlySet<string>;
  /** What fields and choices mirror: they hold it, show it and are chosen by it. */
  readonly mirrored: ReadonlySet<string>;
}

/** Of all variables of a piece. To compute what a variable is set to from itself is not to read it. */
export function mentionsIn(program: Program): Mentions {
  if (program.variables.size === 0) return NOTHING_SAID;
  const [set, read, times] = [new Set<string>(), new Set<string>(), new Map<string, number>()];
  const mirrors = new Set<string>();
  const add = (one: Found) => {
    for (const id of one.set) {
      set.add(id);
      times.set(id, (times.get(id) ?? 0) + 1);
    }
    for (const id of one.read) read.add(id);
    for (const id of one.mirrors) mirrors.add(id);
  };
  for (const scene of program.scenes.values()) add(inScene(scene));
  for (const thread of program.threads) add(inThread(thread));
  // A field that mirrors what something else sets shows it.
  for (const id of mirrors) if (times.get(id)! > 1) read.add(id);
  return { set, read, mirrored: mirrors };
}

const NOTHING_SAID: Mentions = { set: new Set(), read: new Set(), mirrored: new Set() };

/** What is said in one place: every time that something is set, and what fields and choices mirror. */
interface Found {
  readonly set: readonly string[];
  readonly read: readonly string[];
  readonly mirrors: readonly string[];
}

const inScene = onceFor((scene: SceneProgram): Found => {
  const parts = [
    inEntity('scenes', scene.scene),
    ...scene.threads.map(inThread),
    ...scene.items.flatMap(({ layer, threads }) => [inEntity('layers', layer), ...threads.map(inThread)]),
  ].filter((one) => one !== NOTHING);
  const all = (what: keyof Found) => parts.flatMap((one) => one[what]);
  return { set: all('set'), read: [...new Set(all('read'))], mirrors: all('mirrors') };
});

const inThread = onceFor((thread: Thread): Found => inEntity('threads', thread));

const NOTHING: Found = { set: [], read: [], mirrors: [] };

function inEntity(table: 'layers' | 'scenes' | 'threads', entity: Layer | Scene | Thread): Found {
  const fields = fieldsOf(table, entity);
  if (fields.length === 0) return NOTHING;
  const found = { set: [] as string[], read: [] as string[], mirrors: [] as string[] };
  for (const { refers, reads, value, path, holder } of fields) {
    if (value === null) continue;
    if (refers === 'variable') (path[0] === 'cue' ? found.read : found.set).push(value);
    if (refers === 'variable' && table !== 'threads') found.mirrors.push(value);
    const own = reads && path.at(-1) === 'value' ? holder['variable'] : undefined;
    if (reads) for (const name of namesIn(value)) if (name !== own) found.read.push(name);
  }
  return found;
}
