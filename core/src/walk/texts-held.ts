import { partsOf, type Ast } from '../expression/ast.ts';
import type { Layer } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { EQUALS } from './asked-of.ts';
import { keyOf, type Compared } from './compared.ts';
import type { Read } from './reads.ts';

/**
 * Texts of fields that are held against each other, as a word and the same word once more, and against given ones, and of which nothing
 * else is asked. Which of them are the same is all that can be told of them.
 */
export class TextsHeld {
  private readonly keys: ReadonlySet<string>;
  /** Those that hold what a person writes. */
  private readonly written: ReadonlySet<string>;

  constructor(
    program: Program,
    read: readonly Read[],
    fields: readonly Layer[],
    private readonly compared: Compared
  ) {
    const written = new Set(fields.filter(({ field }) => field!.kind === 'text').map(keyOfField));
    const keys = new Set(written);
    const set = new Map<string, Ast[]>();
    for (const { ast, sets } of read) if (sets !== null) set.set(sets, [...(set.get(sets) ?? []), ast]);
    for (const { id, type } of program.variables.values()) if (type === 'text') keys.add(id);
    for (let size = -1; size !== keys.size;) {
      size = keys.size;
      for (const key of keys) if (set.get(key)?.some((ast) => !isGiven(ast) && !this.isOf(keys, ast))) keys.delete(key);
      for (const { ast, sets } of read) this.strike(keys, ast, sets !== null);
    }
    for (const key of keys) if (set.get(key)?.some((ast) => !isGiven(ast))) written.add(key);
    this.keys = keys;
    this.written = written;
    // What they begin with, another one can be written to be.
    for (const key of keys) compared.hold(key, program.variables.get(key)?.initial);
    for (const layer of fields) if (this.isIn(layer)) compared.hold(keyOfField(layer), layer.field!.value);
  }

  isIn = (layer: Layer): boolean => this.keys.has(keyOfField(layer));

  /** Whether an expression asks whether two of them are the same. */
  areHeld = (ast: Ast): boolean =>
    ast.k === 'op' && EQUALS.has(ast.op) && this.isOf(this.keys, ast.a) && this.isOf(this.keys, ast.b) && nameOf(ast.a) !== nameOf(ast.b);

  /** How many others that hold what a person writes a field is held against. */
  beside(layer: Layer): number {
    const own = keyOfField(layer);
    return [...this.written].filter((key) => key !== own && this.keys.has(key) && this.compared.areOne(own, key)).length;
  }

  /** Takes out all of which an expression asks anything else. */
  private strike(keys: Set<string>, ast: Ast, isWhole: boolean): void {
    if (ast.k === 'ref') {
      if (!isWhole) keys.delete(keyOf(ast.id, ast.property));
      return;
    }
    const sides = ast.k === 'op' && EQUALS.has(ast.op) ? [ast.a, ast.b] : null;
    const areBoth = sides?.every((side) => isGiven(side) || this.isOf(keys, side)) ?? false;
    if (!areBoth) for (const part of partsOf(ast)) this.strike(keys, part, false);
  }

  private isOf = (keys: ReadonlySet<string>, ast: Ast): boolean => ast.k === 'ref' && keys.has(keyOf(ast.id, ast.property));
}

const isGiven = ({ k }: Ast): boolean => k === 'value';

const nameOf = (ast: Ast): string => (ast.k === 'ref' ? keyOf(ast.id, ast.property) : '');

const keyOfField = ({ id, field }: Layer): string => field!.variable ?? `${id}.value`;
