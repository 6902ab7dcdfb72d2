import { partsOf, type Ast, type Value } from '../expression/ast.ts';
import { heldAgainst } from './linear.ts';

/**
 * Which given values a thing is held against: what stands in one expression is held against each other, and a variable against what it
 * is set to. So what can be told of a field by anything in the piece is told by the values of its group.
 */
export class Compared {
  private readonly parents = new Map<string, string>();
  private readonly groups = new Map<string, { readonly values: Set<Value>; asksLength: boolean }>();

  /** Things that an expression speaks of are held against each other, and against what it names; `of` besides, where it is given. */
  read(ast: Ast, of: string | null = null): void {
    const keys: string[] = of === null ? [] : [of];
    const values: Value[] = [];
    let asksLength = false;
    const visit = (at: Ast) => {
      if (at.k === 'ref') keys.push(keyOf(at.id, at.property));
      if (at.k === 'special') keys.push(at.what);
      if (at.k === 'value') values.push(at.value);
      const held = heldAgainst(at);
      // As a person would write it, too.
      if (held) values.push(held.value, Number(held.value.toPrecision(12)));
      asksLength ||= at.k === 'call' && at.fn === LENGTH;
      partsOf(at).forEach(visit);
    };
    visit(ast);
    const [first, ...others] = keys;
    if (first === undefined) return;
    for (const other of others) this.join(first, other);
    const group = this.groupOf(first);
    for (const value of values) group.values.add(value);
    group.asksLength ||= asksLength;
  }

  /** One more value of what a thing is held against already. */
  hold(key: string, value: Value | undefined): void {
    const group = this.groups.get(this.rootOf(key));
    if (value !== undefined) group?.values.add(value);
  }

  /** Two things that always hold the same. */
  join(a: string, b: string): void {
    const [one, other] = [this.rootOf(a), this.rootOf(b)];
    if (one === other) return;
    this.parents.set(other, one);
    const moved = this.groups.get(other);
    if (!moved) return;
    const group = this.groupOf(one);
    for (const value of moved.values) group.values.add(value);
    group.asksLength ||= moved.asksLength;
    this.groups.delete(other);
  }

  /** Whether two things are held against each other, or against the same. */
  areOne = (a: string, b: string): boolean => this.rootOf(a) === this.rootOf(b);

  valuesOf = (key: string): Value[] => [...(this.groups.get(this.rootOf(key))?.values ?? [])];

  /** Whether anything asks how long a text is that may be this one. */
  asksLengthOf = (key: string): boolean => this.groups.get(this.rootOf(key))?.asksLength ?? false;

  /** All of it as one text to compare. */
  get words(): string {
    const members = [...this.parents.keys()].map((key) => [key, this.rootOf(key)]).sort(([a], [b]) => (a! < b! ? -1 : 1));
    const groups = [...this.groups].map(([key, { values, asksLength }]) => [key, [...values], asksLength]);
    return JSON.stringify([members, groups]);
  }

  private groupOf(key: string) {
    const root = this.rootOf(key);
    let group = this.groups.get(root);
    if (!group) this.groups.set(root, (group = { values: new Set(), asksLength: false }));
    return group;
  }

  private rootOf(key: string): string {
    let at = key;
    for (let up = this.parents.get(at); up !== undefined; up = this.parents.get(at)) at = up;
    return at;
  }
}

/** The function that asks how long a text is. */
export const LENGTH = 'string length';

/** A variable, or what a layer is or holds, wherever it is placed. */
export const keyOf = (id: string, property: string | null): string => {
  const last = id.split('/').at(-1)!;
  return property === null ? last : `${last}.${property}`;
};
