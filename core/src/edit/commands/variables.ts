import { cutText, MOST_NAME } from '../../text.ts';
import { byOrder, variablesOf, type Entity, type Piece, type Variable } from '../../piece/piece.ts';
import { namesIn } from '../../expression/ast.ts';
import { fieldsOf } from '../../piece/visit.ts';
import { keyBetween } from '../order.ts';
import type { Operation } from '../operation.ts';

/** Edits of variables, and where they are used. */

export type VariableSpec = Pick<Variable, 'name' | 'type' | 'initial'> & Partial<Pick<Variable, 'min' | 'max' | 'step' | 'options'>>;

/** A new variable of the piece, or of one scene, after the others. */
export function newVariable(piece: Piece, id: string, spec: VariableSpec, scene: string | null = null): Operation[] {
  const order = keyBetween(variablesOf(piece, scene).at(-1)?.order ?? null, null);
  const value: Variable = { id, scene, order, ...spec, name: cutText(spec.name.trim(), MOST_NAME) };
  return [{ op: 'put', table: 'variables', value }];
}

/** The kind of variable that a first value asks for: `true`, `3`, or a text with or without quotes. */
export function guessVariable(name: string, written: string): VariableSpec {
  const text = written.trim();
  if (/^(true|false)$/.test(text)) return { name, type: 'yes/no', initial: false };
  if (/^-?\d+(\.\d+)?$/.test(text) || /[+*/-]/.test(text.replace(/"[^"]*"/g, ''))) return { name, type: 'number', initial: 0 };
  return { name, type: 'text', initial: '' };
}

/** Another type: what does not fit it begins anew. */
export function retypeVariable(variable: Variable, type: Variable['type']): Operation[] {
  const { min: _min, max: _max, step: _step, options: _options, ...rest } = variable;
  const { initial } = variable;
  const fresh: Record<Variable['type'], Partial<Variable>> = {
    'yes/no': { initial: initial === true },
    number: { initial: Number.isFinite(Number(initial)) ? Number(initial) : 0 },
    text: { initial: String(initial) },
    choice: typeof initial === 'string' && initial ? { initial, options: [initial] } : { initial: 'One', options: ['One', 'Two'] },
  };
  return [{ op: 'put', table: 'variables', value: { ...rest, type, ...fresh[type] } as Variable }];
}

/** Where a variable is used. */
export interface VariableUse {
  readonly how: 'set' | 'read';
  /** The layer or scene; null for a thread of the whole piece. */
  readonly owner: string | null;
  readonly thread: string | null;
}

/** Every thread, binding, text and field that sets or reads a variable. */
export function usesOfVariable(piece: Piece, id: string): VariableUse[] {
  const found: VariableUse[] = [];
  const uses = (table: 'threads' | 'layers' | 'scenes', entity: Entity) => {
    const fields = fieldsOf(table, entity);
    return {
      sets: fields.some(({ refers, value, path }) => refers === 'variable' && value === id && path[0] !== 'cue'),
      reads: fields.some(({ refers, reads, value, path }) =>
        reads ? value !== null && namesIn(value).includes(id) : refers === 'variable' && value === id && path[0] === 'cue'
      ),
    };
  };
  for (const thread of [...piece.threads.values()].sort(byOrder)) {
    const owner = thread.on === 'piece' ? null : thread.owner;
    const { sets, reads } = uses('threads', thread);
    if (sets) found.push({ how: 'set', owner, thread: thread.id });
    if (reads) found.push({ how: 'read', owner, thread: thread.id });
  }
  for (const layer of piece.layers.values()) {
    const { sets, reads } = uses('layers', layer);
    if (sets) found.push({ how: 'set', owner: layer.id, thread: null });
    else if (reads) found.push({ how: 'read', owner: layer.id, thread: null });
  }
  for (const scene of piece.scenes.values()) {
    const { sets, reads } = uses('scenes', scene);
    if (sets) found.push({ how: 'set', owner: scene.id, thread: null });
    if (reads) found.push({ how: 'read', owner: scene.id, thread: null });
  }
  return found;
}

/** The name of a variable that a line sets or asks about and that is not there, with what it is set to; null where the line has none. */
export function unknownVariable(line: string, known: readonly { readonly name: string }[]): { name: string; value: string } | null {
  for (const [, name, value] of line.matchAll(/(?:^|[;→>]\s*|\bwith\s+)set\s+([^;·→>]+?)\s+to\s+([^;·]+)/giu)) {
    const written = name!.replace(/^"(.*)"$/, '$1').trim();
    if (written && !known.some((one) => one.name.toLowerCase() === written.toLowerCase())) return { name: written, value: value!.trim() };
  }
  for (const [, name, value] of line.matchAll(/\b(?:if|when|and|or)\s+(\p{Lu}[\p{L}\p{N} _]*?)\s*(?:!=|<=|>=|=|<|>)\s*([^→;]+)/gu))
    if (!known.some((one) => one.name.toLowerCase() === name!.toLowerCase()))
      return { name: name!, value: value!.split(/\b(?:and|or)\b/)[0]!.trim() };
  return null;
}
