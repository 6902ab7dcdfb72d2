import type { Ast } from '../expression/ast.ts';
import { readsOf } from '../expression/ast.ts';
import { textParts } from '../expression/text.ts';
import { BINDABLE, type Bindable } from '../piece/bindable.ts';
import { textsOf, type Instance, type Node } from './node.ts';
import type { Program } from './program.ts';

/** A property that always follows an expression. */
export interface Binding {
  /** Unique in an expansion. */
  readonly key: string;
  readonly node: Node | null;
  readonly instance: Instance;
  readonly what: Bindable | 'text' | 'stateIs';
  /** The stored expression, or the whole text. */
  readonly source: string;
  /** Keys of what it reads. */
  readonly reads: ReadonlySet<string>;
}

const NOTHING: readonly Binding[] = [];

/** The bindings of an instance's scene and of its layers. */
export function bindingsOf(program: Program, instance: Instance, nodes: readonly Node[]): readonly Binding[] {
  const found: Binding[] = [];
  const { stateIs } = instance.scene.scene;
  if (stateIs !== undefined) found.push(make(program, `${instance.key}:stateIs`, null, instance, 'stateIs', stateIs));
  for (const node of nodes) {
    const { bindings } = node.layer;
    if (bindings)
      for (const what of BINDABLE)
        if (bindings[what] !== undefined) found.push(make(program, bindingKey(node.key, what), node, node.instance, what, bindings[what]));
    for (const text of textsOf(node)) found.push(make(program, textKey(node.key, text), node, node.instance, 'text', text));
  }
  return found.length ? found : NOTHING;
}

export const bindingKey = (node: string, what: Bindable): string => `${node}:${what}`;

export const textKey = (node: string, text: string): string => `${node}|${text}`;

function make(program: Program, key: string, node: Node | null, instance: Instance, what: Binding['what'], source: string): Binding {
  const sources = what === 'text' ? textParts(source).flatMap((part) => (part.expression === undefined ? [] : [part.expression])) : [source];
  const reads = new Set<string>();
  for (const one of sources) {
    const parsed = program.parse(one);
    if (parsed.ok) collectReads(program, instance, parsed.value, reads);
  }
  return { key, node, instance, what, source, reads };
}

/** The keys of what an expression reads, seen from an instance. */
export function collectReads(program: Program, instance: Instance, ast: Ast, found: Set<string>): void {
  for (const read of readsOf(ast)) {
    const [id, property] = read.split('.') as [string, string | undefined];
    found.add(read === 'frame.name' || read === 'pad.button' ? read : referenceKey(program, instance, id, property ?? null));
  }
}

/** What a reference means from inside an instance, as one key for the whole running piece. */
export function referenceKey(program: Program, instance: Instance, id: string, property: string | null): string {
  if (property === null) return variableKey(program, instance, id);
  return `${placeOf(program, instance, id)}.${property}`;
}

/** The node or scene that an id (or a path) means from inside an instance. */
export function placeOf(program: Program, instance: Instance, path: string): string {
  const first = path.split('/', 1)[0]!;
  const scene = program.piece.layers.get(first)?.scene;
  for (let at: Instance | null = instance; at; at = at.outer) {
    if (scene === at.scene.scene.id) return at.key ? `${at.key}/${path}` : path;
    if (path === at.scene.scene.id) return at.key || path;
  }
  return path;
}

/** A variable of the piece by its id; one of a scene also by where that scene stands. */
export function variableKey(program: Program, instance: Instance, id: string): string {
  const scene = program.variables.get(id)?.scene ?? null;
  if (scene === null) return id;
  for (let at: Instance | null = instance; at; at = at.outer) if (at.scene.scene.id === scene) return at.key ? `${at.key}:${id}` : `:${scene}:${id}`;
  return `:${scene}:${id}`;
}
