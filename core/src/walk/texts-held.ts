import { partsOf, type Ast } from '../expression/ast.ts';
import type { Layer } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { EQUALS, patternOf } from './asked-of.ts';
import { pairsOf } from './held.ts';
import { keyOf, LENGTH, type Compared } from './compared.ts';
import type { Read } from './reads.ts';

/**
 * Texts of fields that are held against each other, as a word and the same word once more, and against given ones, and of which nothing
 * else is asked but what they contain and how long they are. That, and which of them are the same, is all that can be told of them.
 */
export class TextsHeld {
  private readonly keys: ReadonlySet<string>;
  /** Which of them can be asked to be the same. */
  private readonly beside = new Map<string, Set<string>>();
  /** Those that hold what a person writes. */
  private readonly written: ReadonlySet<string>;

  constructor(program: Program, read: readonly Read[], fields: readonly Layer[], compared: Compared) {
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
    for (const { ast, sets } of read) {
      this.pair(ast);
      if (sets !== null && this.isOf(keys, ast)) this.join(sets, nameOf(ast));
    }
    // What they begin with, another one can be written to be.
    for (const key of keys) compared.hold(key, program.variables.get(key)?.initial);
    for (const layer of fields) if (this.isIn(layer)) compared.hold(keyOfField(layer), layer.field!.value);
  }

  isIn = (layer: Layer): boolean => this.keys.has(keyOfField(layer));

  /** Whether an expression asks whether two of them are the same. */
  areHeld = (ast: Ast): boolean =>
    ast.k === 'op' && EQUALS.has(ast.op) && this.isOf(this.keys, ast.a) && this.isOf(this.keys, ast.b) && nameOf(ast.a) !== nameOf(ast.b);

  /** Whether what a person writes into two fields is held against each other, or they are one. */
  areBeside = (layer: Layer, other: Layer): boolean =>
    layer === other || (this.isIn(other) && this.besideOf(keyOfField(layer)).has(keyOfField(other)));

  /** How many others that hold what a person writes a field is held against. */
  othersBeside = (layer: Layer): number => [...this.besideOf(keyOfField(layer))].filter((key) => this.written.has(key)).length - 1;

  /** Itself, and all that can be asked to be the same, by way of others too. */
  private besideOf(key: string): ReadonlySet<string> {
    const found = new Set([key]);
    for (const at of found) for (const next of this.beside.get(at) ?? []) found.add(next);
    return found;
  }

  private pair(ast: Ast): void {
    if (this.areHeld(ast) && ast.k === 'op') this.join(nameOf(ast.a), nameOf(ast.b));
    else for (const part of partsOf(ast)) this.pair(part);
  }

  private join(one: string, other: string): void {
    for (const [a, b] of [
      [one, other],
      [other, one],
    ] as const)
      (this.beside.get(a) ?? this.beside.set(a, new Set()).get(a)!).add(b);
  }

  /** Takes out all of which an expression asks anything else. */
  private strike(keys: Set<string>, ast: Ast, isWhole: boolean): void {
    if (ast.k === 'ref') {
      if (!isWhole) keys.delete(keyOf(ast.id, ast.property));
      return;
    }
    const sides = ast.k === 'op' && EQUALS.has(ast.op) ? [ast.a, ast.b] : null;
    const areBoth = sides?.every((side) => isGiven(side) || this.isOf(keys, side)) ?? false;
    if (areBoth || patternOf(ast)?.of.k === 'ref' || isLengthHeld(ast)) return;
    for (const part of partsOf(ast)) this.strike(keys, part, false);
  }

  private isOf = (keys: ReadonlySet<string>, ast: Ast): boolean => ast.k === 'ref' && keys.has(keyOf(ast.id, ast.property));
}

/** Whether an expression holds how long a text is against given numbers. */
const isLengthHeld = (ast: Ast): boolean =>
  pairsOf(ast)?.every(
    ([a, b]) =>
      [a, b].some(isGiven) && [a, b].every((side) => isGiven(side) || (side.k === 'call' && side.fn === LENGTH && side.args[0]?.k === 'ref'))
  ) ?? false;

const isGiven = ({ k }: Ast): boolean => k === 'value';

const nameOf = (ast: Ast): string => (ast.k === 'ref' ? keyOf(ast.id, ast.property) : '');

const keyOfField = ({ id, field }: Layer): string => field!.variable ?? `${id}.value`;
